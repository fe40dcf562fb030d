import { firstIndex } from './search';
import { median } from './median';
import { rankTest } from './rank-test';

/** How far one side lies from the other. */
export interface Shift {
  /** After less before, by Hodges and Lehmann. */
  readonly difference: number;
  /** The interval of shifts that the test does not refuse. */
  readonly low: number;
  readonly high: number;
}

/** More pairs than this are thinned evenly before they are sorted. */
const MAX_PAIRS = 40_000;

/**
 * The shift between two sides: the median of the differences of all pairs (Hodges and Lehmann 1963, Annals of
 * Mathematical Statistics 34), with the interval that holds the shifts the rank test does not refuse.
 * @param before 1 or more values
 * @param after 1 or more values
 * @param level chance that the interval misses the true shift
 */
export function shiftOf(before: ArrayLike<number>, after: ArrayLike<number>, level: number): Shift {
  const differences = differencesOf(before, after);
  const difference = median(differences);
  const steps = Float64Array.from(new Set(differences));
  const isKept = (at: number) => {
    const shifted = Float64Array.from(after, (value) => value - steps[at]!);
    return rankTest(before, shifted).p > level;
  };
  const last = steps.length - 1;
  const centre = Math.min(
    last,
    firstIndex(steps.length, (at) => steps[at]! >= difference),
  );
  const lowest = firstIndex(centre, isKept);
  const highest = last - firstIndex(last - centre, (below) => isKept(last - below));
  return {
    difference,
    low: Math.min(difference, steps[lowest]!),
    high: Math.max(difference, steps[highest]!),
  };
}

/** Differences of all pairs, ascending. */
function differencesOf(before: ArrayLike<number>, after: ArrayLike<number>): Float64Array {
  const thin = Math.max(1, Math.ceil(Math.sqrt((before.length * after.length) / MAX_PAIRS)));
  const some = (values: ArrayLike<number>) =>
    Float64Array.from(values)
      .sort()
      .filter((_, at) => at % thin === 0);
  const [b, a] = [some(before), some(after)];
  const differences = new Float64Array(b.length * a.length);
  for (let i = 0, at = 0; i < a.length; i++)
    for (let j = 0; j < b.length; j++) differences[at++] = a[i]! - b[j]!;
  return differences.sort();
}
