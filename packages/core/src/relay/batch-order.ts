/** Hands on numbered batches in their order, each once, however they come. */
export class BatchOrder<T> {
  readonly #early = new Map<number, T>();
  #next: number;

  /** @param next number of the first batch that is expected */
  constructor(next: number) {
    this.#next = next;
  }

  get next(): number {
    return this.#next;
  }

  /** Takes a batch in; returns those that can now be handed on. A batch that came before is passed over. */
  take(sequence: number, batch: T): T[] {
    if (sequence >= this.#next) this.#early.set(sequence, batch);
    const ready: T[] = [];
    for (
      let batchNow = this.#early.get(this.#next);
      batchNow !== undefined;
      batchNow = this.#early.get(this.#next)
    ) {
      this.#early.delete(this.#next++);
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
}
