import { mannKendall } from './mann-kendall';
import { median } from './median';

/** Fewer values than this in the second half tell of no growth. */
const MIN_HALF = 7;
/** Level at which growth must hold within the second half alone. */
const HALF_LEVEL = 0.1;
/** Of a growth that goes on, the last quarter is above the third and that above the second by this share of the whole. */
const MIN_QUARTER_SHARE = 0.1;

/**
 * The chance that values grow as much where nothing grows; 1 where they do not go on growing: what came to rest before
 * the second half, or is one step from one level to another, is no growth that goes on.
 * @param values of near-independent stretches of equal length, in order of time
 */
export function growthChance(values: Float64Array): number {
  const half = values.subarray(values.length >> 1);
  if (half.length < MIN_HALF || mannKendall(half).p > HALF_LEVEL) return 1;
  const quarters = [1, 2, 3].map((at) =>
    median(values.subarray(Math.floor((at * values.length) / 4), Math.floor(((at + 1) * values.length) / 4))),
  ) as [number, number, number];
  const grew = quarters[2] - quarters[0];
  const goesOn =
    grew > 0 &&
    quarters[1] - quarters[0] >= grew * MIN_QUARTER_SHARE &&
    quarters[2] - quarters[1] >= grew * MIN_QUARTER_SHARE;
  return !goesOn || isStep(values) ? 1 : mannKendall(values).p;
}

/** Whether one step from one level to another tells the values better than a straight line does. */
function isStep(values: Float64Array): boolean {
  const { length: n } = values;
  const sums = new Float64Array(n + 1);
  const squares = new Float64Array(n + 1);
  for (let at = 0; at < n; at++) {
    sums[at + 1] = sums[at]! + values[at]!;
    squares[at + 1] = squares[at]! + values[at]! ** 2;
  }
  const restOfLevel = (from: number, to: number) =>
    squares[to]! - squares[from]! - (sums[to]! - sums[from]!) ** 2 / (to - from);
  let best = Infinity;
  for (let at = 2; at <= n - 2; at++) best = Math.min(best, restOfLevel(0, at) + restOfLevel(at, n));
  const centre = (n - 1) / 2;
  let top = 0;
  let bottom = 0;
  for (let at = 0; at < n; at++) {
    top += (at - centre) * values[at]!;
    bottom += (at - centre) ** 2;
  }
  return best < restOfLevel(0, n) - top ** 2 / bottom;
}
