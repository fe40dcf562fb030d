import { slotOf } from '@nettle-patch/core';

/** How often functions were called in a while. */
export interface CountedCalls {
  /** Ids of the functions, in ascending order. */
  readonly ids: Int32Array<ArrayBuffer>;
  readonly counts: Int32Array<ArrayBuffer>;
}

interface CountedRange {
  readonly firstId: number;
  readonly functionCount: number;
  /** The counts when they were read last. */
  readonly before: Int32Array;
}

/** Reads how often each function of the registered scripts was called since it was read last. */
export class CallCounts {
  readonly #ranges: CountedRange[] = [];

  /** @param counts gives them by slot of the id */
  constructor(private readonly counts: () => Int32Array) {}

  /** Takes note of the functions of a script, whose ids follow each other. */
  add(firstId: number, functionCount: number): void {
    if (this.#ranges.some((range) => range.firstId === firstId)) return;
    const range = { firstId, functionCount, before: new Int32Array(functionCount) };
    this.#ranges.push(range);
    this.#ranges.sort((a, b) => a.firstId - b.firstId);
  }

  /** Whether an id is that of one of the functions. */
  has(id: number): boolean {
    return this.#ranges.some(({ firstId, functionCount }) => id >= firstId && id < firstId + functionCount);
  }

  /** Forgets what was counted so far. */
  reset(): void {
    this.take();
  }

  /** What was counted since this was called last. */
  take(): CountedCalls {
    const counts = this.counts();
    const ids: number[] = [];
    const counted: number[] = [];
    for (const { firstId, functionCount, before } of this.#ranges) {
      const firstSlot = slotOf(firstId);
      for (let at = 0; at < functionCount; at++) {
        const count = counts[slotOf(firstSlot + at)]!;
        if (count === before[at]) continue;
        ids.push(firstId + at);
        // The difference is right where a count has gone beyond the largest number.
        counted.push((count - before[at]!) | 0);
        before[at] = count;
      }
    }
    return { ids: Int32Array.from(ids), counts: Int32Array.from(counted) };
  }
}
