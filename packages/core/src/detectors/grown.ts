import { theilSen, type Slope } from '../statistics/theil-sen';
import type { Thresholds } from '../format/thresholds';

/** Chance, over all that is tested together, of telling of a creep where there is none. */
export const CREEP_ERROR_RATE = 0.05;
/** A cost that did not grow by half is none that creeps. */
const MIN_GROWTH = 1.5;

/** Means of the first and of the last quarter of some values. */
export interface Ends {
  readonly first: number;
  readonly last: number;
}

export function endsOf(values: Float64Array | Uint32Array): Ends {
  const quarter = Math.ceil(values.length / 4);
  const meanOf = (from: number, to: number) => {
    let sum = 0;
    for (let at = from; at < to; at++) sum += values[at]!;
    return sum / Math.max(1, to - from);
  };
  return { first: meanOf(0, quarter), last: meanOf(values.length - quarter, values.length) };
}

/**
 * How costs grew from their first quarter to their last; undefined where that is too little to tell of.
 * @param unitOf place of each cost on the axis that the slope goes by
 */
export function grownBy(
  costs: Float64Array,
  unitOf: (index: number) => number,
  { creepMsASecond }: Thresholds,
): (Ends & { readonly slope: Slope }) | undefined {
  const ends = endsOf(costs);
  if (ends.last - ends.first < creepMsASecond || ends.last < ends.first * MIN_GROWTH) return undefined;
  const slope = theilSen(
    Array.from(costs, (_, at) => unitOf(at)),
    Array.from(costs),
  );
  return slope === undefined ? undefined : { ...ends, slope };
}
