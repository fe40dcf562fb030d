import { NO_STACK, type SampleColumns } from '../format/packed-samples';

import { isAscending } from './order';

const MAX_GAP_INTERVALS = 4;

/** The samples of one thread, in order of time. */
export class Samples implements SampleColumns {
  readonly timesUs: Float64Array;
  readonly stacks: Int32Array;

  constructor(
    readonly intervalMs: number,
    timesUs: ArrayLike<number>,
    stacks: ArrayLike<number>,
  ) {
    this.timesUs = Float64Array.from(timesUs);
    this.stacks = Int32Array.from(stacks);
    if (isAscending(this.timesUs)) return;
    const order = Uint32Array.from(this.timesUs.keys()).sort((x, y) => timesUs[x]! - timesUs[y]! || x - y);
    order.forEach((from, to) => {
      this.timesUs[to] = timesUs[from]!;
      this.stacks[to] = stacks[from]!;
    });
  }

  get length(): number {
    return this.timesUs.length;
  }

  timeMs(index: number): number {
    return this.timesUs[index]! / 1000;
  }

  hasScript(index: number): boolean {
    return this.stacks[index] !== NO_STACK;
  }

  /** Index of the first sample at or after a time; `length` when there is none. */
  firstAtOrAfter(ms: number): number {
    let low = 0;
    let high = this.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.timeMs(middle) < ms) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /**
   * The stretch a sample speaks for: to the middle between it and its neighbours, but no further than half of
   * a few intervals, so that a gap in sampling is not taken for knowledge.
   */
  stretch(index: number): { startMs: number; endMs: number } {
    const reach = (this.intervalMs * MAX_GAP_INTERVALS) / 2;
    const time = this.timeMs(index);
    const before = index > 0 ? (this.timeMs(index - 1) + time) / 2 : -Infinity;
    const after = index + 1 < this.length ? (this.timeMs(index + 1) + time) / 2 : Infinity;
    return { startMs: Math.max(before, time - reach), endMs: Math.min(after, time + reach) };
  }
}
