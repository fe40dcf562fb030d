import { once } from 'node:events';
import {
  BETWEEN_PAGES_MS,
  BatchOrder,
  MISSING_BATCH_MS,
  INTERFACE_SOCKET_PATH,
  RecordingDecoder,
  RecordingBuilder,
  isBatch,
  uninstrumentedRows,
  lostBatches,
  type Uninstrumented,
  type Recording,
  type Row,
  readBatch,
  resolveFunctions,
  sourcesToFetch,
  type Command,
  type ServerMessage,
  type ScriptText,
  type Target,
} from '@nettle-patch/core';
import { WebSocket } from 'ws';
import type { Running } from '../serve';

const POLL_MS = 50;

interface Taken {
  readonly lines: readonly string[];
  readonly last: boolean;
}

/** Follows targets and takes recordings without an interface: for scripts and automated runs. */
export class RecordingClient {
  readonly #socket: WebSocket;
  readonly #lines = new Map<string, string[]>();
  readonly #ended = new Set<string>();
  readonly #orders = new Map<string, BatchOrder<Taken>>();
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
    const socket = new WebSocket(url, ['nettle-patch', running.secret]);
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
    this.#lines.set(recordingId, []);
    this.#command({ type: 'start', targetId: target.id, recordingId });
    await this.#until(() => this.#lines.get(recordingId)!.length > 0, 'the recording did not begin');
  }

  /** Has the page record from its next load on. */
  startWithNextLoad(target: Target, recordingId: string): void {
    this.#lines.set(recordingId, []);
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
    // Between two pages, the next is waited for.
    const isKnown = () => this.#sourceOf(recordingId) !== undefined || this.#ended.has(recordingId);
    if (!(await this.#comesToHold(isKnown, BETWEEN_PAGES_MS))) this.#endLeft(recordingId);
    const now = this.#sourceOf(recordingId);
    this.#command({ type: 'stop', targetId: (now ?? target).id, recordingId });
    await this.#until(() => this.#ended.has(recordingId), 'the recording did not end');
    const lines = this.#lines.get(recordingId)!;
    const end = lines.pop()!;
    return [...lines, ...(await this.#resolvingLines(lines)), end];
  }

  close(): void {
    this.#socket.close();
  }

  async #resolvingLines(lines: readonly string[]): Promise<string[]> {
    const builder = new RecordingBuilder();
    const decoder = new RecordingDecoder(builder);
    decoder.push(new TextEncoder().encode(lines.map((line) => `${line}\n`).join('')));
    const recording = builder.build();
    const scripts = new Map<string, ScriptText>();
    for (const { url } of sourcesToFetch(recording)) {
      scripts.set(url, await this.#scriptAt(url));
    }
    const rows = [...(await this.#uninstrumentedRows(recording)), ...resolveFunctions(recording, scripts)];
    return rows.map((row) => JSON.stringify(row));
  }

  /** A script without its text is one more thing that is not known, and no reason to lose a recording. */
  async #scriptAt(url: string): Promise<ScriptText> {
    try {
      return (await this.#ask(`script?url=${encodeURIComponent(url)}`)) as ScriptText;
    } catch (error) {
      return { url, problem: (error as Error).message };
    }
  }

  async #uninstrumentedRows(recording: Recording): Promise<Row[]> {
    if (recording.header.mode !== 'exact') return [];
    return uninstrumentedRows((await this.#ask('left-alone')) as Uninstrumented[]);
  }

  async #ask(what: string): Promise<unknown> {
    const headers = { authorization: `Bearer ${this.running.secret}` };
    const answer = await fetch(`${this.running.interfaceOrigin}/api/${what}`, { headers });
    if (!answer.ok) throw new Error(`the server answered ${answer.status}: ${await answer.text()}`);
    return answer.json();
  }

  #take(text: string): void {
    if (!isBatch(text)) {
      const message = JSON.parse(text) as ServerMessage;
      if (message.type === 'targets') this.#targets = message.targets;
      return;
    }
    const { batch, lines } = readBatch(text);
    const { targetId, recordingId, sequence, last } = batch;
    let order = this.#orders.get(recordingId);
    if (order === undefined) this.#orders.set(recordingId, (order = new BatchOrder(0)));
    const taken = { lines: lines.split('\n').filter((line) => line !== ''), last };
    this.#keep(recordingId, order.take(sequence, taken));
    this.#command({ type: 'acknowledge', targetId, recordingId, sequence });
    if (sequence >= order.next)
      setTimeout(() => this.#skipMissing(recordingId, order), MISSING_BATCH_MS).unref();
  }

  #keep(recordingId: string, ready: readonly Taken[]): void {
    for (const { lines, last } of ready) {
      this.#lines.get(recordingId)?.push(...lines);
      if (last) this.#ended.add(recordingId);
    }
  }

  #skipMissing(recordingId: string, order: BatchOrder<Taken>): void {
    const { missing, ready } = order.skipMissing();
    if (missing === 0) return;
    const rows = lostBatches(
      missing,
      this.#lastMs(recordingId),
      ready.flatMap(({ lines }) => lines),
    );
    this.#lines.get(recordingId)?.push(...rows.map((row) => JSON.stringify(row)));
    this.#keep(recordingId, ready);
  }

  /** Ends a recording whose page was left for good. */
  #endLeft(recordingId: string): void {
    const row: Row = { kind: 'end', startMs: this.#lastMs(recordingId), reason: 'target-left' };
    this.#lines.get(recordingId)?.push(JSON.stringify(row));
    this.#ended.add(recordingId);
  }

  /** The latest time that the last rows of a recording tell of. */
  #lastMs(recordingId: string): number {
    const rows = (this.#lines.get(recordingId) ?? []).slice(-50).map((line) => JSON.parse(line) as object);
    return Math.max(0, ...rows.map((row) => ('startMs' in row ? Number(row.startMs) : 0)));
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
