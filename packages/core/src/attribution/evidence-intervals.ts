import { stableOrder } from '../recording/order';
import type { TimeRange } from '../recording/recording';
import { Heap } from './heap';
import type { Evidence } from './evidence';

/** What sources say of intervals of time, as columns: the one with the highest priority wins where they overlap. */
export class EvidenceIntervals {
  readonly starts: number[] = [];
  readonly ends: number[] = [];
  readonly priority: number[] = [];
  readonly kinds: Evidence[] = [];

  constructor(private readonly range: TimeRange) {}

  /** Adds an interval, cut to the range. */
  add(startMs: number, endMs: number, evidence: Evidence, priority: number): void {
    const from = startMs < this.range.startMs ? this.range.startMs : startMs;
    const to = endMs > this.range.endMs ? this.range.endMs : endMs;
    if (to <= from) return;
    this.starts.push(from);
    this.ends.push(to);
    this.priority.push(priority);
    this.kinds.push(evidence);
  }

  /**
   * Goes through the range in order of time. Of those with the same priority the one added first wins.
   * @param visit is called for each interval with the evidence that wins there, or with none; neighbours may
   * have the same one
   */
  sweep(visit: (startMs: number, endMs: number, evidence: Evidence | undefined) => void): void {
    const { starts, ends, kinds } = this;
    const order = stableOrder(starts);
    const active = new Heap((a, b) => this.#beats(a, b));
    let next = 0;
    for (let atMs = this.range.startMs; atMs < this.range.endMs;) {
      for (; next < order.length && starts[order[next]!]! <= atMs; next++) active.push(order[next]!);
      while (active.top !== undefined && ends[active.top]! <= atMs) active.pop();
      const best = active.top;
      let untilMs = best === undefined ? this.range.endMs : ends[best]!;
      if (next < order.length) untilMs = Math.min(untilMs, starts[order[next]!]!);
      visit(atMs, untilMs, best === undefined ? undefined : kinds[best]);
      atMs = untilMs;
    }
  }

  #beats(a: number, b: number): boolean {
    return this.priority[a]! > this.priority[b]! || (this.priority[a] === this.priority[b] && a < b);
  }
}
