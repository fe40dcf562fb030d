/** A slope with its 95 % interval, in units of y a unit of x. */
export interface Slope {
  readonly slope: number;
  readonly low: number;
  readonly high: number;
}

/** Quantile 0.975 of the standard normal distribution. */
const Z = 1.959964;

/** More points than this are thinned: every pair of points gives a slope. */
const MAX_POINTS = 240;

/**
 * The robust slope of Theil and Sen: the median of the slopes between all pairs of points, with the interval that Sen
 * gives from the variance of Kendall's statistic (Sen 1968, Journal of the American Statistical Association 63).
 * @returns undefined for fewer than 3 points
 */
export function theilSen(xs: readonly number[], ys: readonly number[]): Slope | undefined {
  const step = Math.ceil(xs.length / MAX_POINTS);
  const at = xs.flatMap((_, index) => (index % step === 0 ? index : []));
  const count = at.length;
  if (count < 3) return undefined;
  const slopes: number[] = [];
  for (let i = 0; i < count; i++) {
    for (let j = i + 1; j < count; j++) {
      const width = xs[at[j]!]! - xs[at[i]!]!;
      if (width !== 0) slopes.push((ys[at[j]!]! - ys[at[i]!]!) / width);
    }
  }
  if (slopes.length === 0) return undefined;
  slopes.sort((a, b) => a - b);
  const spread = Z * Math.sqrt((count * (count - 1) * (2 * count + 5)) / 18);
  const pick = (rank: number) => slopes[Math.max(0, Math.min(slopes.length - 1, Math.round(rank)))]!;
  const middle = slopes.length / 2;
  const slope =
    slopes.length % 2 === 1 ? slopes[Math.floor(middle)]! : (slopes[middle - 1]! + slopes[middle]!) / 2;
  return {
    slope,
    low: pick((slopes.length - spread) / 2 - 1),
    high: pick((slopes.length + spread) / 2),
  };
}
