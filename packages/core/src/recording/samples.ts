import { NO_STACK, type SampleColumns } from '../format/packed-samples';
import { isAscending, stableOrder } from './order';
import { firstIndex } from '../statistics/search';

const MAX_GAP_INTERVALS = 4;

/** The samples of one thread, in order of time. */
export class Samples implements SampleColumns {
  readonly timesUs: Float64Array;
  readonly stacks: Int32Array;
  /** Interval of each sample, where two samplers took them; undefined where all have `intervalMs`. */
  readonly intervals: Float32Array | undefined;
  /** See `SampleColumns`; undefined where all samples came one by one. */
  readonly together: Uint32Array | undefined;

  /** @param intervalMs the shortest at which they were taken */
  constructor(
    readonly intervalMs: number,
    timesUs: ArrayLike<number>,
    stacks: ArrayLike<number>,
    intervals?: ArrayLike<number>,
    together?: ArrayLike<number>,
  ) {
    this.timesUs = Float64Array.from(timesUs);
    this.stacks = Int32Array.from(stacks);
    this.intervals = intervals && Float32Array.from(intervals);
    this.together = together && Uint32Array.from(together);
    if (isAscending(this.timesUs)) return;
    stableOrder(timesUs).forEach((from, to) => {
      this.timesUs[to] = timesUs[from]!;
      this.stacks[to] = stacks[from]!;
      if (this.intervals !== undefined) this.intervals[to] = intervals![from]!;
      if (this.together !== undefined) this.together[to] = together![from]!;
    });
  }

  /** Interval at which a sample was taken. Milliseconds. */
  intervalOf(index: number): number {
    return this.intervals?.[index] ?? this.intervalMs;
  }

  /** How many samples came of the measurement that a sample came of. */
  togetherAt(index: number): number {
    return this.together?.[index] ?? 1;
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
    return firstIndex(this.length, (at) => this.timeMs(at) >= ms);
  }

  /** Whether sampling went on from the sample before an index to the one at it, so that the time between was looked at. */
  coversGapBefore(index: number): boolean {
    if (index === 0 || index >= this.length) return false;
    const intervalMs = Math.max(this.intervalOf(index - 1), this.intervalOf(index));
    return this.timeMs(index) - this.timeMs(index - 1) <= intervalMs * MAX_GAP_INTERVALS;
  }

  /** Where, between a sample and the one before it, the time ends that the earlier stands for: halfway, or where a closer look ends. */
  #borderBefore(index: number): number {
    const [fromMs, toMs] = [this.timeMs(index - 1), this.timeMs(index)];
    const [before, after] = [this.intervalOf(index - 1), this.intervalOf(index)];
    const middleMs = (fromMs + toMs) / 2;
    if (before < after) return Math.min(middleMs, fromMs + before / 2);
    if (after < before) return Math.max(middleMs, toMs - after / 2);
    return middleMs;
  }

  /**
   * The stretch a sample speaks for: to the middle between it and its neighbours, but no further than half of
   * a few intervals, so that a gap in sampling is not taken for knowledge.
   * @param among samples from `first` up to, but not including, `end` that count as neighbours; all, when absent
   */
  stretch(
    index: number,
    among: { readonly first: number; readonly end: number } = { first: 0, end: this.length },
  ): { startMs: number; endMs: number } {
    const reach = (this.intervalOf(index) * MAX_GAP_INTERVALS) / 2;
    const time = this.timeMs(index);
    const before = index > among.first ? this.#borderBefore(index) : -Infinity;
    const after = index + 1 < among.end ? this.#borderBefore(index + 1) : Infinity;
    return { startMs: Math.max(before, time - reach), endMs: Math.min(after, time + reach) };
  }

  /**
   * The time between a sample and its neighbours that it stands for: half of that to either side, or half an interval
   * where there is no neighbour or only one beyond a gap.
   */
  weightMs(index: number): number {
    const halfMs = this.intervalOf(index) / 2;
    const beforeMs = this.coversGapBefore(index) ? this.timeMs(index) - this.#borderBefore(index) : halfMs;
    const afterMs = this.coversGapBefore(index + 1)
      ? this.#borderBefore(index + 1) - this.timeMs(index)
      : halfMs;
    return beforeMs + afterMs;
  }
}
