import {
  ProtocolError,
  JOIN_PATH,
  RecordingVerifier,
  TARGET_SOCKET_PATH,
  parseTargetMessage,
  type BatchFrame,
  type Command,
  type Finding,
  type Hello,
} from '@nettle-patch/core';
import type { WebSocket } from 'ws';
import { LoopbackGate } from '../gate/access-policy';
import { hasOwnHost } from '../gate/guard';
import { onUpgrade, serverWithTimeouts } from '../limits/server-with-timeouts';
import { listenNear } from '../listen';
import { GuardedSockets } from '../relay/sockets';
import { signal } from '../signal';

/** After `stop`, the batch that ends the recording is waited for so long. */
const LAST_BATCH_MS = 3000;
const RECORDING_ID = 'verified';

/** Takes a recording from an emitter as the tool would, and says what breaks the protocol or the format. */
export class EmitterCheck {
  readonly #gate: LoopbackGate;
  readonly #verifier: RecordingVerifier;
  readonly #sockets: GuardedSockets;
  readonly #server;
  #port = 0;
  #socket: WebSocket | undefined;
  #targetId: string | undefined;
  #frames = 0;
  #nextSequence = 0;
  #hasGap = false;
  readonly #greeted = signal();
  readonly #stopped = signal();
  readonly #ended = signal();

  constructor(private readonly tell: (finding: Finding) => void) {
    this.#gate = new LoopbackGate(() => this.#port);
    this.#verifier = new RecordingVerifier(tell);
    this.#sockets = new GuardedSockets(this.#gate, (socket) => this.#join(socket));
    this.#server = serverWithTimeouts((request, response) => {
      const isJoin = request.url === JOIN_PATH && hasOwnHost(request, this.#gate.hosts);
      response
        .writeHead(isJoin ? 200 : 404, { 'content-type': 'text/plain' })
        .end(isJoin ? this.#gate.secretFor() : 'Only emitters are served here.');
    });
    onUpgrade(this.#server, (request, socket, head) => {
      if (request.url === TARGET_SOCKET_PATH) this.#sockets.upgrade(request, socket, head);
      else socket.destroy();
    });
  }

  /** Lines of the recording taken so far. */
  get lineCount(): number {
    return this.#verifier.lineCount;
  }

  /** @returns the origin at which emitters join */
  async listen(port: number): Promise<string> {
    ({ port: this.#port } = await listenNear(this.#server, port));
    return this.#gate.origin;
  }

  /** Waits for an emitter, records it for a time, and has it stop. */
  async record(forMs: number): Promise<void> {
    await Promise.race([this.#greeted.done, this.#stopped.done]);
    if (this.#targetId === undefined) {
      this.#fault('no emitter said hello');
      return;
    }
    await Promise.race([this.#stopped.done, new Promise((resolve) => setTimeout(resolve, forMs))]);
    this.#send({ type: 'stop', ...this.#about });
    const late = new Promise<boolean>((resolve) => setTimeout(() => resolve(false), LAST_BATCH_MS));
    if (!(await Promise.race([this.#ended.done.then(() => true), late])))
      this.#fault(`no batch with "last": true came within ${LAST_BATCH_MS / 1000} s of "stop"`);
    this.#verifier.finish();
  }

  /** Has the recording stopped before its time. */
  stop(): void {
    this.#stopped.give();
  }

  close(): void {
    this.#sockets.close();
    this.#server.close();
    this.#server.closeAllConnections();
  }

  #fault(text: string): void {
    this.tell({ isFault: true, text });
  }

  #join(socket: WebSocket): void {
    this.#socket = socket;
    socket.on('message', (data, isBinary) => {
      this.#frames++;
      const frame = `frame ${this.#frames}`;
      if (isBinary) return this.#fault(`${frame}: frames are texts, and this one is binary`);
      try {
        const message = parseTargetMessage(String(data));
        if (message.type === 'rows') this.#batch(message, frame);
        else this.#greet(message, frame);
      } catch (error) {
        if (!(error instanceof ProtocolError)) throw error;
        this.#fault(`${frame}: ${error.message}`);
      }
    });
  }

  #greet({ target }: Hello, frame: string): void {
    if (this.#targetId === undefined) {
      this.#targetId = target.id;
      this.#send({ type: 'start', ...this.#about });
      this.#greeted.give();
    } else if (target.id !== this.#targetId) {
      this.#fault(
        `${frame}: the hello has another id ("${target.id}") than the one before ("${this.#targetId}")`,
      );
    }
  }

  #batch({ batch, lines }: BatchFrame, frame: string): void {
    if (this.#targetId === undefined) return this.#fault(`${frame}: rows came before any hello`);
    const { targetId, recordingId, sequence, last } = batch;
    if (targetId !== this.#targetId)
      this.#fault(`${frame}: "targetId" is "${targetId}", the hello said "${this.#targetId}"`);
    if (recordingId !== RECORDING_ID) {
      this.#fault(`${frame}: "recordingId" is "${recordingId}", asked for was "${RECORDING_ID}"`);
      return;
    }
    if (sequence > this.#nextSequence) {
      this.#fault(
        `${frame}: "sequence" is ${sequence}, expected is ${this.#nextSequence}: batches before it are missing`,
      );
      this.#hasGap = true;
    }
    if (sequence >= this.#nextSequence) {
      if (!lines.endsWith('\n')) this.#fault(`${frame}: the last row has no line end`);
      this.#nextSequence = sequence + 1;
      this.#verifier.push(new TextEncoder().encode(lines));
    }
    // An acknowledgement is of all batches before it, too.
    if (!this.#hasGap) this.#send({ type: 'acknowledge', ...this.#about, sequence });
    if (last) this.#ended.give();
  }

  get #about(): Pick<Command, 'targetId' | 'recordingId'> {
    return { targetId: this.#targetId!, recordingId: RECORDING_ID };
  }

  #send(command: Command): void {
    this.#socket?.send(JSON.stringify(command));
  }
}
