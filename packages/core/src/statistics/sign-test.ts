import { median } from './median';
import type { Shift } from './shift';

/**
 * The sign test on differences of pairs, two-sided and exact: it asks for nothing but that either sign is as likely where
 * there is no difference, so that a few pairs that went far off, on either side, weigh no more than any other (Dixon and
 * Mood 1946, Journal of the American Statistical Association 41). Differences of nothing say nothing.
 * @returns chance of as lopsided signs where either is as likely
 */
export function signChance(differences: ArrayLike<number>): number {
  let [more, less] = [0, 0];
  for (let at = 0; at < differences.length; at++) {
    if (differences[at]! > 0) more++;
    else if (differences[at]! < 0) less++;
  }
  return Math.min(1, 2 * lowerTail(more + less, Math.min(more, less)));
}

/** The smallest chance that the test could give for so many pairs. */
export function smallestSignChance(pairs: number): number {
  return Math.min(1, 2 ** (1 - pairs));
}

/**
 * The median of differences, with the interval between those of them that the test does not refuse as the true one.
 * @param differences 1 or more
 * @param level chance that the interval misses the true median, at most
 */
export function medianShiftOf(differences: ArrayLike<number>, level: number): Shift {
  const sorted = Float64Array.from(differences).sort();
  let cut = 0;
  while (lowerTail(sorted.length, cut) <= level / 2) cut++;
  const low = Math.max(0, cut - 1);
  return { difference: median(sorted), low: sorted[low]!, high: sorted[sorted.length - 1 - low]! };
}

/** The chance of at most so many heads in so many throws of a fair coin. */
function lowerTail(throws: number, most: number): number {
  let ways = 1;
  let sum = 1;
  for (let heads = 1; heads <= most; heads++) {
    ways *= (throws - heads + 1) / heads;
    sum += ways;
  }
  return sum / 2 ** throws;
}
