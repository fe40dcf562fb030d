import { upperTail } from './mann-kendall';
import { first } from '../lists/items';

/** Above so many values on both sides the distribution is taken to be normal. */
const MAX_EXACT = 60;
const MAX_CACHED = 400;

/** What the test of Mann and Whitney says of two sides. */
export interface RankTest {
  /** Chance of a difference as large, either way, if both sides were drawn from the same. */
  readonly p: number;
}

/** The chance of each sum of ranks, by how far it lies from the middle, from the furthest inwards. */
interface Tails {
  /** Distances from the middle, descending, in halves of a rank doubled. */
  readonly distances: Float64Array;
  /** Chance of a distance at least as large. */
  readonly chances: Float64Array;
}

const known = new Map<string, Tails>();

/**
 * The test of Mann and Whitney, two-sided, by the exact distribution over all ways to part the values; equal values get
 * the mean of their ranks (Mann and Whitney 1947, Annals of Mathematical Statistics 18; with ties Lehmann,
 * Nonparametrics, section 1.4). Above 60 values in all the normal approximation with continuity and tie correction.
 */
export function rankTest(before: ArrayLike<number>, after: ArrayLike<number>): RankTest {
  const [n, m] = [before.length, after.length];
  if (n === 0 || m === 0) return { p: 1 };
  const { doubledSum, groups } = ranksOf(before, after);
  const distance = Math.abs(doubledSum - m * (n + m + 1));
  if (n + m > MAX_EXACT) return { p: normalChance(distance / 2, n, m, groups) };
  return { p: chanceOf(tailsOf(groups, Math.min(n, m)), distance) };
}

/** The smallest chance that the test could give for so many values without ties: 2 / C(n + m, n). */
export function smallestChance(n: number, m: number): number {
  let ways = 1;
  for (let at = 1; at <= Math.min(n, m); at++) ways *= (n + m - Math.min(n, m) + at) / at;
  return n === 0 || m === 0 ? 1 : Math.min(1, 2 / ways);
}

/** Twice the sum of the ranks of the second side, and how many values are equal to each other, in order of value. */
function ranksOf(
  before: ArrayLike<number>,
  after: ArrayLike<number>,
): { doubledSum: number; groups: number[] } {
  const [n, m] = [before.length, after.length];
  const all = Array.from({ length: n + m }, (_, at) => ({
    value: at < n ? before[at]! : after[at - n]!,
    isAfter: at >= n,
  })).sort((a, b) => a.value - b.value);
  const groups: number[] = [];
  let doubledSum = 0;
  for (let from = 0; from < all.length;) {
    let to = from;
    let ofAfter = 0;
    while (to < all.length && all[to]!.value === all[from]!.value) if (all[to++]!.isAfter) ofAfter++;
    doubledSum += ofAfter * (from + 1 + to);
    groups.push(to - from);
    from = to;
  }
  return { doubledSum, groups };
}

function tailsOf(groups: readonly number[], m: number): Tails {
  const key = `${m}:${groups.join()}`;
  let tails = known.get(key);
  if (tails !== undefined) return tails;
  tails = tailsOfSums(groups, m);
  if (known.size >= MAX_CACHED) known.clear();
  known.set(key, tails);
  return tails;
}

/**
 * Counts the ways to choose `m` values by the sum of their doubled ranks, value by value. Of the first values no sums can
 * come but those between their lowest and their highest ranks, so only these are gone through.
 */
function tailsOfSums(groups: readonly number[], m: number): Tails {
  const ranks: number[] = [];
  for (const size of groups) {
    const doubledRank = 2 * ranks.length + 1 + size;
    for (let item = 0; item < size; item++) ranks.push(doubledRank);
  }
  const before = Float64Array.of(0, ...ranks);
  for (let at = 1; at < before.length; at++) before[at]! += before[at - 1]!;
  const total = ranks.length;
  const highest = (seen: number, chosen: number) => before[seen]! - before[seen - chosen]!;
  const ways = Array.from({ length: m + 1 }, () => new Float64Array(highest(total, m) + 1));
  first(ways)[0] = 1;
  ranks.forEach((rank, seen) => {
    for (let chosen = Math.min(m, seen + 1); chosen >= 1; chosen--) {
      const [into, out] = [ways[chosen]!, ways[chosen - 1]!];
      const least = before[chosen - 1]! + rank;
      for (let sum = highest(seen, chosen - 1) + rank; sum >= least; sum--) into[sum]! += out[sum - rank]!;
    }
  });
  return cumulated(ways[m]!, m * (total + 1));
}

function cumulated(ways: Float64Array, middle: number): Tails {
  const byDistance = new Map<number, number>();
  let all = 0;
  ways.forEach((count, sum) => {
    if (count === 0) return;
    all += count;
    const distance = Math.abs(sum - middle);
    byDistance.set(distance, (byDistance.get(distance) ?? 0) + count);
  });
  const sorted = [...byDistance].sort((a, b) => b[0] - a[0]);
  let sum = 0;
  return {
    distances: Float64Array.from(sorted, ([distance]) => distance),
    chances: Float64Array.from(sorted, ([, count]) => (sum += count) / all),
  };
}

function chanceOf({ distances, chances }: Tails, distance: number): number {
  const at = distances.findIndex((one) => one <= distance);
  return at < 0 ? 1 : chances[distances[at] === distance ? at : Math.max(0, at - 1)]!;
}

function normalChance(distance: number, n: number, m: number, groups: readonly number[]): number {
  const total = n + m;
  const ties = groups.reduce((sum, size) => sum + size ** 3 - size, 0);
  const variance = ((n * m) / 12) * (total + 1 - ties / (total * (total - 1)));
  if (variance <= 0) return 1;
  return Math.min(1, 2 * upperTail(Math.max(0, distance - 0.5) / Math.sqrt(variance)));
}
