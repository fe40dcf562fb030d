/** Whether values tend to grow, in the order they came. */
export interface Trend {
  /** Kendall's statistic: pairs that grow less pairs that fall. */
  readonly score: number;
  /** Chance of as much growth where there is none, one-sided. */
  readonly p: number;
}

/**
 * The test of Mann and Kendall for growth, by the normal approximation with continuity correction and ties (Mann 1945,
 * Econometrica 13; Kendall, Rank Correlation Methods). Values that follow each other closely are less than independent:
 * the variance is widened by their lag-one correlation around the trend (after Hamed and Rao 1998, Journal of Hydrology
 * 204).
 * @param values 3 or more
 */
export function mannKendall(values: ArrayLike<number>): Trend {
  const { length: n } = values;
  let score = 0;
  const ties = new Map<number, number>();
  for (let i = 0; i < n; i++) {
    ties.set(values[i]!, (ties.get(values[i]!) ?? 0) + 1);
    for (let j = i + 1; j < n; j++) score += Math.sign(values[j]! - values[i]!);
  }
  const spread = (count: number) => count * (count - 1) * (2 * count + 5);
  let variance = spread(n);
  for (const count of ties.values()) variance -= spread(count);
  variance = (variance / 18) * wideningOf(values);
  if (variance <= 0) return { score, p: 1 };
  const z = score > 0 ? (score - 1) / Math.sqrt(variance) : 0;
  return { score, p: score > 0 ? upperTail(z) : 1 };
}

/** How much the variance grows by the correlation of neighbours around the straight line through the values; 1 or more. */
function wideningOf(values: ArrayLike<number>): number {
  const { length: n } = values;
  const mean = meanOf(values);
  let slopeTop = 0;
  let slopeBottom = 0;
  for (let at = 0; at < n; at++) {
    slopeTop += (at - (n - 1) / 2) * (values[at]! - mean);
    slopeBottom += (at - (n - 1) / 2) ** 2;
  }
  const slope = slopeBottom === 0 ? 0 : slopeTop / slopeBottom;
  const rest = Float64Array.from(values, (value, at) => value - mean - slope * (at - (n - 1) / 2));
  let along = 0;
  let all = 0;
  for (let at = 0; at < n; at++) {
    all += rest[at]! ** 2;
    if (at > 0) along += rest[at]! * rest[at - 1]!;
  }
  const correlation = all === 0 ? 0 : Math.min(MAX_CORRELATION, along / all);
  return correlation <= 0 ? 1 : (1 + correlation) / (1 - correlation);
}

const MAX_CORRELATION = 0.9;

function meanOf(values: ArrayLike<number>): number {
  let sum = 0;
  for (let at = 0; at < values.length; at++) sum += values[at]!;
  return sum / Math.max(1, values.length);
}

/** Upper tail of the standard normal distribution (Abramowitz and Stegun, 26.2.17; error below 7.5e-8). */
export function upperTail(z: number): number {
  if (z < 0) return 1 - upperTail(-z);
  const t = 1 / (1 + 0.2316419 * z);
  const polynomial =
    t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) * polynomial;
}
