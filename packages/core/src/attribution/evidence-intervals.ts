import { stableOrder } from '../recording/order';
import type { TimeRange } from '../recording/recording';
import { Heap } from './heap';
import type { Evidence } from './evidence';

/** What sources claim of stretches of time, as columns: the claim with the highest closeness wins where they overlap. */
export class EvidenceIntervals {
  readonly starts: number[] = [];
  readonly ends: number[] = [];
  readonly closeness: number[] = [];
  readonly kinds: Evidence[] = [];

  constructor(private readonly range: TimeRange) {}

  /** Adds a claim, cut to the range. */
  add(startMs: number, endMs: number, evidence: Evidence, closeness: number): void {
    const from = startMs < this.range.startMs ? this.range.startMs : startMs;
    const to = endMs > this.range.endMs ? this.range.endMs : endMs;
    if (to <= from) return;
    this.starts.push(from);
    this.ends.push(to);
    this.closeness.push(closeness);
    this.kinds.push(evidence);
  }

  /**
   * Goes through the range in order of time. Of claims with the same closeness the one added first wins.
   * @param visit is called for each stretch with the claim that wins there, or with none; neighbouring stretches may
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
    return this.closeness[a]! > this.closeness[b]! || (this.closeness[a] === this.closeness[b] && a < b);
  }
}
