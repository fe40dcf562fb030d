import { firstIndex } from './search';
import { median } from './median';
import { upperTail } from './mann-kendall';
import type { Shift } from './shift';

/** Above so many differences their distribution is taken to be normal. */
const MAX_EXACT = 100;

/**
 * The test of Wilcoxon on differences of pairs, two-sided, by the exact distribution over all signs; equal sizes get the
 * mean of their ranks, and differences of nothing say nothing (Wilcoxon 1945, Biometrics Bulletin 1; with ties Lehmann,
 * Nonparametrics, section 3.2). Above 100 differences the normal approximation.
 * @returns chance of as lopsided differences where either sign is as likely
 */
export function signedRankChance(differences: ArrayLike<number>): number {
  const sized = Array.from(differences, (value) => ({ size: Math.abs(value), isMore: value > 0 }))
    .filter(({ size }) => size > 0)
    .sort((a, b) => a.size - b.size);
  const doubledRanks: number[] = [];
  let more = 0;
  for (let from = 0; from < sized.length;) {
    let to = from;
    while (to < sized.length && sized[to]!.size === sized[from]!.size) to++;
    for (let at = from; at < to; at++) {
      doubledRanks.push(from + 1 + to);
      if (sized[at]!.isMore) more += from + 1 + to;
    }
    from = to;
  }
  const all = doubledRanks.reduce((sum, rank) => sum + rank, 0);
  if (all === 0) return 1;
  const distance = Math.abs(2 * more - all);
  return doubledRanks.length > MAX_EXACT
    ? normalChance(distance, doubledRanks)
    : exactChance(distance, doubledRanks, all);
}

/** The smallest chance that the test could give for so many pairs. */
export function smallestPairedChance(pairs: number): number {
  return Math.min(1, 2 ** (1 - pairs));
}

/** Goes through all signs: how many ways there are to each sum of those that are more. */
function exactChance(distance: number, doubledRanks: readonly number[], all: number): number {
  const ways = new Float64Array(all + 1);
  ways[0] = 1;
  let highest = 0;
  for (const rank of doubledRanks) {
    highest += rank;
    for (let sum = highest; sum >= rank; sum--) ways[sum]! += ways[sum - rank]!;
  }
  let further = 0;
  for (let sum = 0; sum <= all; sum++) if (Math.abs(2 * sum - all) >= distance) further += ways[sum]!;
  return Math.min(1, further / 2 ** doubledRanks.length);
}

function normalChance(distance: number, doubledRanks: readonly number[]): number {
  const variance = doubledRanks.reduce((sum, rank) => sum + rank ** 2, 0);
  return Math.min(1, 2 * upperTail(distance / Math.sqrt(variance)));
}

/**
 * The middle of differences: the median of the means of all two of them, with the interval of shifts that the test does
 * not refuse (Hodges and Lehmann 1963, Annals of Mathematical Statistics 34).
 * @param differences 1 or more
 * @param level chance that the interval misses the true shift
 */
export function pairedShiftOf(differences: ArrayLike<number>, level: number): Shift {
  const { length } = differences;
  const means = new Float64Array((length * (length + 1)) / 2);
  for (let i = 0, at = 0; i < length; i++)
    for (let j = i; j < length; j++) means[at++] = (differences[i]! + differences[j]!) / 2;
  means.sort();
  const difference = median(means);
  const steps = Float64Array.from(new Set(means));
  const isKept = (at: number) =>
    signedRankChance(Float64Array.from(differences, (value) => value - steps[at]!)) > level;
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
