import type { Batch } from '@nettle-patch/core';

/** Characters that wait for an acknowledgement at most: about what a minute of everyday recording takes. */
const MAX_WAITING = 32 * 1024 * 1024;

interface Waiting {
  readonly batch: Batch;
  readonly lines: string;
  /** Rows it tells of: its own, and those given up before that it counts. */
  readonly rows: number;
}

/** Batches that the interface has not yet said it keeps safe, in order, up to a set amount. */
export class UnacknowledgedBatches {
  #waiting: Waiting[] = [];
  #size = 0;
  #droppedRows = 0;

  /** @param rows that are lost when this batch is given up */
  add(batch: Batch, lines: string, rows: number): void {
    this.#waiting.push({ batch, lines, rows });
    this.#size += lines.length;
    while (this.#size > MAX_WAITING && this.#waiting.length > 1) {
      const oldest = this.#waiting.shift()!;
      this.#size -= oldest.lines.length;
      this.#droppedRows += oldest.rows;
    }
  }

  acknowledge(recordingId: string, sequence: number): void {
    const isKept = ({ batch }: Waiting) => batch.recordingId === recordingId && batch.sequence <= sequence;
    this.#waiting = this.#waiting.filter((waiting) => !isKept(waiting));
    this.#size = this.#waiting.reduce((sum, { lines }) => sum + lines.length, 0);
  }

  list(): readonly Waiting[] {
    return this.#waiting;
  }

  /** Rows given up since the last call, oldest first, because nobody took them. */
  takeDropped(): number {
    const count = this.#droppedRows;
    this.#droppedRows = 0;
    return count;
  }
}
