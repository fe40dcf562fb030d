/** Batches handed on last whose lines are remembered. */
const REMEMBERED = 4;

/** What a numbered batch holds. */
export interface BatchLines {
  readonly lines: readonly string[];
}

/**
 * Hands on numbered batches in their order, each once, however they come. The last batch of a page that is left comes
 * from the page, and may come again from its worker, with more behind the same lines: that is handed on then.
 */
export class BatchOrder<T extends BatchLines> {
  readonly #early = new Map<number, T>();
  /** Lines of the latest batches that were handed on, by their numbers. */
  readonly #latest = new Map<number, readonly string[]>();
  #next: number;

  /** @param next number of the first batch that is expected */
  constructor(next: number) {
    this.#next = next;
  }

  get next(): number {
    return this.#next;
  }

  /** Whether a batch is missing that others have come after. */
  get isWaiting(): boolean {
    return this.#early.size > 0;
  }

  /** Takes a batch in; returns those that can now be handed on. Of a batch that came before, what is new. */
  take(sequence: number, batch: T): T[] {
    if (sequence < this.#next) return this.#grown(sequence, batch);
    this.#early.set(sequence, batch);
    const ready: T[] = [];
    for (
      let batchNow = this.#early.get(this.#next);
      batchNow !== undefined;
      batchNow = this.#early.get(this.#next)
    ) {
      this.#early.delete(this.#next);
      this.#remember(this.#next++, batchNow.lines);
      ready.push(batchNow);
    }
    return ready;
  }

  /**
   * Gives up what has not come although later batches have.
   * @returns the number of batches given up, and those that can now be handed on
   */
  skipMissing(): { missing: number; ready: T[] } {
    const first = Math.min(...this.#early.keys());
    if (!Number.isFinite(first)) return { missing: 0, ready: [] };
    const missing = first - this.#next;
    const batch = this.#early.get(first)!;
    this.#next = first;
    return { missing, ready: this.take(first, batch) };
  }

  #grown(sequence: number, batch: T): T[] {
    const known = this.#latest.get(sequence);
    if (known === undefined || batch.lines.length <= known.length) return [];
    if (known.some((line, at) => line !== batch.lines[at])) return [];
    this.#remember(sequence, batch.lines);
    return [{ ...batch, lines: batch.lines.slice(known.length) }];
  }

  #remember(sequence: number, lines: readonly string[]): void {
    this.#latest.set(sequence, lines);
    this.#latest.delete(sequence - REMEMBERED);
  }
}
