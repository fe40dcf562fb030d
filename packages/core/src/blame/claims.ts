import { copyInto } from '../recording/grow';
import type { TimeRange } from '../recording/recording';
import type { Layer } from './layers';

const INITIAL_CAPACITY = 256;

/** What sources claim of stretches of time, as columns: the claim with the highest closeness wins where they overlap. */
export class Claims {
  readonly starts: number[] = [];
  readonly ends: number[] = [];
  readonly closeness: number[] = [];
  readonly layers: Layer[] = [];

  constructor(private readonly range: TimeRange) {}

  /** Adds a claim, cut to the range. */
  add(startMs: number, endMs: number, layer: Layer, closeness: number): void {
    const from = startMs < this.range.startMs ? this.range.startMs : startMs;
    const to = endMs > this.range.endMs ? this.range.endMs : endMs;
    if (to <= from) return;
    this.starts.push(from);
    this.ends.push(to);
    this.closeness.push(closeness);
    this.layers.push(layer);
  }

  /**
   * Goes through the range in order of time.
   * @param visit is called for each stretch between two edges with the claim that wins there, or with none
   */
  sweep(visit: (startMs: number, endMs: number, layer: Layer | undefined) => void): void {
    const { starts, ends, closeness, layers } = this;
    const order = orderOf(starts);
    let active = new Uint32Array(INITIAL_CAPACITY);
    let count = 0;
    let next = 0;
    for (let atMs = this.range.startMs; atMs < this.range.endMs;) {
      let kept = 0;
      let best = -1;
      let untilMs = this.range.endMs;
      for (let at = 0; at < count; at++) {
        const claim = active[at]!;
        const endMs = ends[claim]!;
        if (endMs <= atMs) continue;
        active[kept++] = claim;
        if (endMs < untilMs) untilMs = endMs;
        if (best < 0 || closeness[claim]! > closeness[best]!) best = claim;
      }
      count = kept;
      for (; next < order.length && starts[order[next]!]! <= atMs; next++) {
        const claim = order[next]!;
        if (count === active.length) active = copyInto(new Uint32Array(count * 2), active);
        active[count++] = claim;
        if (ends[claim]! < untilMs) untilMs = ends[claim]!;
        if (best < 0 || closeness[claim]! > closeness[best]!) best = claim;
      }
      if (next < order.length) untilMs = Math.min(untilMs, starts[order[next]!]!);
      visit(atMs, untilMs, best < 0 ? undefined : layers[best]);
      atMs = untilMs;
    }
  }
}

/** Up to so many claims, the place of one fits into a number beside its time in microseconds. */
const MOST_KEYED = 2 ** 20;

/** Indexes in order of the values; of those in one microsecond, in order of the index. */
function orderOf(values: readonly number[]): Uint32Array {
  if (values.length > MOST_KEYED) {
    return Uint32Array.from(values.keys()).sort((a, b) => values[a]! - values[b]! || a - b);
  }
  const keys = new Float64Array(values.length);
  for (let index = 0; index < keys.length; index++) {
    keys[index] = Math.round(values[index]! * 1000) * MOST_KEYED + index;
  }
  keys.sort();
  const order = new Uint32Array(keys.length);
  for (let index = 0; index < keys.length; index++) {
    order[index] = keys[index]! - Math.floor(keys[index]! / MOST_KEYED) * MOST_KEYED;
  }
  return order;
}
