import type { Row, RowOfKind } from '../format/rows';
import { MISSING_BATCH_MS } from '../protocol/patience';
import type { BatchFrame } from '../protocol/protocol';
import { BatchOrder } from './batch-order';
import { lostBatches } from './lost-batches';
import { sourceLines, type ScriptOrigin } from './source-lines';

/** Where the lines of a recording are kept while it streams in. */
export interface RecordingSink {
  /** The latest time that the lines kept so far tell of. Milliseconds of the recording. */
  readonly lastMs: number;
  /**
   * Keeps lines safe.
   * @param nextBatch number of the batch that comes after them, where they end one
   */
  append(lines: readonly string[], nextBatch?: number): Promise<void>;
  /** Everything kept so far, in pieces of any size. */
  pieces(): Promise<Iterable<Uint8Array>>;
  /** Whether anything was kept. */
  readonly hasBegun: boolean;
  /** The last line was kept. */
  finish(): Promise<void>;
  /** Whether a recording that could not be kept for this error may still be given an end. */
  isFull(error: unknown): boolean;
}

export interface ReceiverEvents {
  /** All batches up to this one are kept. */
  acknowledge(sequence: number): void;
  /** Batches are missing: those that were not acknowledged are asked for again. */
  askAgain(): void;
  /** The recording is whole in the sink. @param reason of its end row */
  onEnd(reason: string): void;
  /** Nothing more is kept. @param kept whether what came before is whole in the sink, with an end */
  onError(error: Error, kept: boolean): void;
}

/** Has work done after a time. @returns has it left undone */
export type Timer = (work: () => void, afterMs: number) => () => void;

interface Taken {
  readonly lines: readonly string[];
  readonly sequence: number;
  readonly last: boolean;
}

/**
 * Takes a recording that streams in: puts its batches in order, waits for those that are missing, acknowledges what is
 * kept and nothing else, maps its functions to their source once it ends, and gives it an end where its page gives none.
 *
 * A batch is acknowledged with all before it, so nothing behind a gap is kept or acknowledged. What is missing after a
 * while is asked for again; what is still missing then was given up by its page, and is told by a `drop` row.
 */
export class RecordingReceiver {
  readonly #order: BatchOrder<Taken>;
  #work: Promise<void> = Promise.resolve();
  #closed = false;
  #failed = false;
  #hasAsked = false;
  /** Number of the batch after those that are kept. */
  #next: number;
  #forget: (() => void) | undefined;

  /** @param nextBatch number of the first batch that is expected */
  constructor(
    private readonly sink: RecordingSink,
    private readonly origin: ScriptOrigin,
    private readonly events: ReceiverEvents,
    private readonly timer: Timer,
    nextBatch = 0,
  ) {
    this.#order = new BatchOrder(nextBatch);
    this.#next = nextBatch;
  }

  /** Whether its last batch has come, so that what follows is up to this side. */
  get isClosed(): boolean {
    return this.#closed;
  }

  take({ batch: { sequence, last }, lines: text }: BatchFrame): void {
    if (this.#closed) return;
    const lines = text.split('\n').filter((line) => line !== '');
    const ready = this.#order.take(sequence, { lines, sequence, last });
    for (const batch of ready) this.#keep(batch);
    if (ready.length === 0 && sequence < this.#order.next) this.#acknowledge(sequence);
    if (ready.length > 0) this.#hasAsked = false;
    this.#waitForMissing();
  }

  /** Ends a recording whose page will send no more. */
  end(reason: 'target-left' | 'interrupted'): void {
    if (this.#closed) return;
    this.#close();
    this.#after(() => this.#finish(this.#endLine(reason)));
  }

  #waitForMissing(): void {
    this.#forget?.();
    this.#forget = undefined;
    if (this.#closed || !this.#order.isWaiting) return;
    this.#forget = this.timer(() => {
      if (this.#hasAsked) return this.#skipMissing();
      this.#hasAsked = true;
      this.events.askAgain();
      this.#waitForMissing();
    }, MISSING_BATCH_MS);
  }

  #skipMissing(): void {
    const { missing, ready } = this.#order.skipMissing();
    this.#hasAsked = false;
    const next = ready.flatMap(({ lines }) => lines);
    this.#after(() => {
      const rows = lostBatches(missing, this.sink.lastMs, next);
      return this.sink.append(rows.map((row) => JSON.stringify(row)));
    });
    for (const batch of ready) this.#keep(batch);
    this.#waitForMissing();
  }

  #keep({ lines, sequence, last }: Taken): void {
    if (last) this.#close();
    this.#after(async () => {
      const end = last ? lines.at(-1) : undefined;
      this.#next = Math.max(this.#next, sequence + 1);
      await this.sink.append(end === undefined ? lines : lines.slice(0, -1), this.#next);
      if (end !== undefined) await this.#finish(end);
      this.events.acknowledge(sequence);
    });
  }

  /** What was taken before is acknowledged again once it is kept. */
  #acknowledge(sequence: number): void {
    this.#after(async () => this.events.acknowledge(sequence));
  }

  #close(): void {
    this.#closed = true;
    this.#forget?.();
  }

  #endLine(reason: string): string {
    return JSON.stringify({ kind: 'end', startMs: this.sink.lastMs, reason } satisfies Row);
  }

  /** Maps functions to their source, then ends: so a recording with an end is always mapped. */
  async #finish(endLine: string): Promise<void> {
    const { reason } = JSON.parse(endLine) as RowOfKind<'end'>;
    if (this.sink.hasBegun) {
      await this.sink.append([...(await this.#sourceLines()), endLine]);
      await this.sink.finish();
    }
    this.events.onEnd(reason);
  }

  async #sourceLines(): Promise<string[]> {
    return sourceLines(await this.sink.pieces(), this.origin);
  }

  /** Ends a recording for which there is no more room: with its functions mapped if that fits, else without. */
  async #endAsFull(): Promise<boolean> {
    const end = this.#endLine('full');
    for (const lines of [[...(await this.#sourceLines()), end], [end]]) {
      try {
        await this.sink.append(lines);
        await this.sink.finish();
        return true;
      } catch (error) {
        if (!this.sink.isFull(error)) throw error;
      }
    }
    return false;
  }

  /** Work on the sink happens one piece after the other. After an error nothing more is kept. */
  #after(work: () => Promise<void>): void {
    this.#work = this.#work.then(async () => {
      if (this.#failed) return;
      try {
        await work();
      } catch (error) {
        this.#close();
        this.#failed = true;
        const kept = this.sink.isFull(error) && (await this.#endAsFull());
        this.events.onError(error as Error, kept);
      }
    });
  }
}
