import { once } from 'node:events';
import {
  BETWEEN_PAGES_MS,
  INTERFACE_SOCKET_PATH,
  RecordingReceiver,
  SUBPROTOCOL,
  checked,
  parseServerMessage,
  scriptTextSchema,
  uninstrumentedSchema,
  type Command,
  type ScriptText,
  type Target,
} from '@nettle-patch/core';
import { WebSocket } from 'ws';
import type { Running } from '../serve';
import { signal } from '../signal';
import { LinesInMemory } from './lines-in-memory';

const POLL_MS = 50;

interface Received {
  readonly sink: LinesInMemory;
  readonly receiver: RecordingReceiver;
  /** Settles when it is whole, or cannot be. */
  readonly done: Promise<void>;
}

/** Follows targets and takes recordings without an interface: for scripts and automated runs. */
export class RecordingClient {
  readonly #socket: WebSocket;
  readonly #recordings = new Map<string, Received>();
  #targets: readonly Target[] = [];

  private constructor(
    socket: WebSocket,
    private readonly running: Running,
  ) {
    this.#socket = socket;
    socket.on('message', (data) => this.#take(String(data)));
  }

  static async connect(running: Running): Promise<RecordingClient> {
    const url = running.interfaceOrigin.replace('http', 'ws') + INTERFACE_SOCKET_PATH;
    const socket = new WebSocket(url, [SUBPROTOCOL, running.secret]);
    const client = new RecordingClient(socket, running);
    await once(socket, 'open');
    return client;
  }

  /** Waits until a page has joined. */
  async target(): Promise<Target> {
    await this.#until(() => this.#targets.length > 0, 'no page joined');
    return this.#targets[0]!;
  }

  /** Pages that have joined. */
  get targets(): readonly Target[] {
    return this.#targets;
  }

  async start(target: Target, recordingId: string): Promise<void> {
    const { sink } = this.#receive(target, recordingId);
    this.#command({ type: 'start', targetId: target.id, recordingId });
    await this.#until(() => sink.hasBegun, 'the recording did not begin');
  }

  /** Has the page record from its next load on. */
  startWithNextLoad(target: Target, recordingId: string): void {
    this.#receive(target, recordingId);
    this.#command({ type: 'start-with-next-load', targetId: target.id, recordingId });
  }

  /** The page that a recording comes from, once it has begun. */
  async recorded(recordingId: string): Promise<Target> {
    await this.#until(() => this.#sourceOf(recordingId) !== undefined, 'the recording did not begin');
    return this.#sourceOf(recordingId)!;
  }

  /**
   * Stops a recording and maps its functions to their original source.
   * @returns its lines
   */
  async stop(target: Target, recordingId: string): Promise<string[]> {
    const received = this.#recordings.get(recordingId)!;
    // Between two pages, the next is waited for.
    const isKnown = () => this.#sourceOf(recordingId) !== undefined || received.receiver.isClosed;
    if (!(await this.#comesToHold(isKnown, BETWEEN_PAGES_MS))) received.receiver.end('target-left');
    const now = this.#sourceOf(recordingId);
    this.#command({ type: 'stop', targetId: (now ?? target).id, recordingId });
    await this.#until(() => received.receiver.isClosed, 'the recording did not end');
    await received.done;
    return received.sink.lines;
  }

  close(): void {
    this.#socket.close();
  }

  /** A script without its text is one more thing that is not known, and no reason to lose a recording. */
  async #scriptAt(url: string): Promise<ScriptText> {
    try {
      return checked(await this.#ask(`script?url=${encodeURIComponent(url)}`), scriptTextSchema);
    } catch (error) {
      return { url, problem: (error as Error).message };
    }
  }

  async #ask(what: string): Promise<unknown> {
    const headers = { authorization: `Bearer ${this.running.secret}` };
    const answer = await fetch(`${this.running.interfaceOrigin}/api/${what}`, { headers });
    if (!answer.ok) throw new Error(`the server answered ${answer.status}: ${await answer.text()}`);
    return answer.json();
  }

  #take(text: string): void {
    const message = parseServerMessage(text);
    if (message.type === 'targets') this.#targets = message.targets;
    else if (message.type === 'rows') this.#recordings.get(message.batch.recordingId)?.receiver.take(message);
  }

  #receive(target: Target, recordingId: string): Received {
    const sink = new LinesInMemory();
    const targetId = () => (this.#sourceOf(recordingId) ?? target).id;
    const ended = signal();
    const receiver = new RecordingReceiver(
      sink,
      {
        fetchScript: (url) => this.#scriptAt(url),
        uninstrumented: async () => checked(await this.#ask('uninstrumented'), uninstrumentedSchema),
      },
      {
        acknowledge: (sequence) =>
          this.#command({ type: 'acknowledge', targetId: targetId(), recordingId, sequence }),
        askAgain: () => this.#command({ type: 'follow', targetId: targetId(), recordingId }),
        onEnd: ended.give,
        onError: ended.fail,
      },
      (work, afterMs) => {
        const timer = setTimeout(work, afterMs).unref();
        return () => clearTimeout(timer);
      },
    );
    const received = { sink, receiver, done: ended.done };
    this.#recordings.set(recordingId, received);
    return received;
  }

  /** The page that a recording comes from now. */
  #sourceOf(recordingId: string): Target | undefined {
    return this.#targets.find(({ recording }) => recording?.id === recordingId);
  }

  #command(command: Command): void {
    this.#socket.send(JSON.stringify(command));
  }

  async #until(holds: () => boolean, problem: string, limitMs = 20_000): Promise<void> {
    if (!(await this.#comesToHold(holds, limitMs))) throw new Error(`${problem} within ${limitMs / 1000} s`);
  }

  async #comesToHold(holds: () => boolean, limitMs: number): Promise<boolean> {
    const untilMs = Date.now() + limitMs;
    while (!holds()) {
      if (Date.now() > untilMs) return false;
      await new Promise((resolve) => setTimeout(resolve, POLL_MS));
    }
    return true;
  }
}
