import {
  CLOSE_BAD_MESSAGE,
  CLOSE_TOO_MUCH,
  ProtocolError,
  parseCommand,
  parseTargetMessage,
  readBatch,
  type BatchFrame,
  type Command,
  type Hello,
  type ListedTarget,
  type ServedApp,
  type ServerMessage,
} from '@nettle-patch/core';
import type { WebSocket } from 'ws';
import type { Client } from '../gate/access-policy';
import { RateLimiter, type Rate } from '../limits/rate-limiter';
import { log } from '../log';

/** What may be kept of a person's page. */
type Allowed = Required<Pick<Extract<Command, { type: 'start' }>, 'words' | 'byText'>>;

/** The reason for a close has 123 bytes at most (RFC 6455, section 5.5). */
const MAX_REASON_BYTES = 123;

/** As much of a text as fits into the reason for a close. */
function sayable(text: string): string {
  const { read } = new TextEncoder().encodeInto(text, new Uint8Array(MAX_REASON_BYTES));
  return text.slice(0, read);
}

/** Bytes that may wait for a slow interface before targets are made to hold their rows back. */
const MAX_WAITING_BYTES = 64 * 1024 * 1024;
/** Bytes of commands and lists that may wait for one that takes nothing; it is then given up. */
const GIVEN_UP_BYTES = 2 * MAX_WAITING_BYTES;

/** Hellos of one connection: each is told to every interface. Rows are not counted, as many may come at once after a loss. */
const HELLOS: Rate = { burst: 400, perSecond: 100 };

/**
 * Passes rows from targets to interfaces and commands the other way. Keeps nothing: rows that no interface
 * takes are not acknowledged, so the target holds them.
 */
export class Relay {
  readonly #targets = new Map<WebSocket, ListedTarget>();
  readonly #interfaces = new Set<WebSocket>();

  /**
   * @param apps that the tool stands in front of
   * @param allowed what may be kept of a person's page now
   */
  constructor(
    private readonly apps: () => readonly ServedApp[] = () => [],
    private readonly allowed: () => Allowed = () => ({ words: false, byText: false }),
  ) {}

  addTarget(socket: WebSocket, visitor: Client): void {
    const hellos = new RateLimiter(HELLOS);
    socket.on('message', (data) => {
      const text = String(data);
      this.#guarded(socket, () => {
        const message = parseTargetMessage(text);
        if (message.type === 'rows') this.#rows(socket, message, text);
        else if (hellos.take()) this.#greet(socket, visitor, message);
        else socket.close(CLOSE_TOO_MUCH, 'too many messages');
      });
    });
    socket.on('close', () => this.#targetLeft(socket));
  }

  addInterface(socket: WebSocket): void {
    this.#interfaces.add(socket);
    socket.on('message', (data) => this.#guarded(socket, () => this.#command(parseCommand(String(data)))));
    socket.on('close', () => this.#interfaces.delete(socket));
    this.#send(socket, this.#targetsMessage());
  }

  /**
   * Takes rows that come without a connection, as the last of a page that leaves.
   * @throws ProtocolError when the frame holds no batch of rows, or one of somebody else's target
   */
  takeLastRows(frame: string, { device }: Client): void {
    const { targetId } = readBatch(frame).batch;
    const owner = [...this.#targets.values()].find(({ id }) => id === targetId);
    if (owner !== undefined && owner.visitor !== device)
      throw new ProtocolError('these are rows of another target');
    this.#passOn(frame);
  }

  /** Hands a whole file to an interface, for its shelf. @returns whether there is one */
  takeFile(file: Buffer): boolean {
    const [first] = this.#interfaces;
    first?.send(file);
    return first !== undefined;
  }

  #passOn(frame: string): void {
    for (const socket of this.#interfaces) {
      if (socket.bufferedAmount < MAX_WAITING_BYTES) socket.send(frame);
    }
  }

  #rows(socket: WebSocket, { batch }: BatchFrame, frame: string): void {
    if (this.#targets.get(socket)?.id !== batch.targetId)
      throw new ProtocolError('these are rows of another target');
    this.#passOn(frame);
  }

  #greet(socket: WebSocket, { device }: Client, hello: Hello): void {
    const target = { ...hello.target, visitor: device };
    this.#replace(target);
    this.#targets.set(socket, target);
    this.tellTargets();
  }

  /** A target that comes again has lost its connection; one of somebody else may not take its name. */
  #replace(target: ListedTarget): void {
    for (const [socket, known] of this.#targets) {
      // A page that has gone on with a recording is the one it comes from now; the one before may lie in a cache.
      if (known.recording !== null && known.recording.id === target.recording?.id)
        this.#targets.set(socket, { ...known, recording: null });
      if (known.id !== target.id) continue;
      if (known.visitor !== target.visitor) throw new ProtocolError('another target has this id');
      this.#targets.delete(socket);
    }
  }

  #targetLeft(socket: WebSocket): void {
    const target = this.#targets.get(socket);
    this.#targets.delete(socket);
    if (target === undefined) return;
    this.#broadcast({ type: 'target-left', targetId: target.id, recordingId: target.recording?.id ?? null });
    this.tellTargets();
  }

  #command(command: Command): void {
    for (const [socket, target] of this.#targets) {
      if (target.id !== command.targetId) continue;
      this.#send(socket, command.type === 'start' ? { ...command, ...this.allowed() } : command);
    }
  }

  #guarded(socket: WebSocket, work: () => void): void {
    try {
      work();
    } catch (error) {
      if (!(error instanceof ProtocolError)) log(`a connection said what nobody can take: ${String(error)}`);
      socket.close(CLOSE_BAD_MESSAGE, sayable((error as Error).message));
    }
  }

  #targetsMessage(): ServerMessage {
    return { type: 'targets', targets: [...this.#targets.values()], apps: [...this.apps()] };
  }

  /** Tells every interface what can be recorded, and where. */
  tellTargets(): void {
    this.#broadcast(this.#targetsMessage());
  }

  #broadcast(message: ServerMessage): void {
    for (const socket of this.#interfaces) this.#send(socket, message);
  }

  #send(socket: WebSocket, message: ServerMessage | Command): void {
    if (socket.bufferedAmount > GIVEN_UP_BYTES) socket.terminate();
    else socket.send(JSON.stringify(message));
  }
}
