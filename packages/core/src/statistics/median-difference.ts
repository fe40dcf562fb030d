import { seededRandom } from './random';

/** The median; of an even number of values, the middle between the two in the middle. */
export function median(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** How far the median of one set of values lies from that of another, with the 95 % interval. */
export interface MedianDifference {
  /** After less before. */
  readonly difference: number;
  readonly low: number;
  readonly high: number;
}

const RESAMPLES = 2000;
const SEED = 20_261_120;

/**
 * The difference of two medians with its percentile bootstrap interval (Efron and Tibshirani, An Introduction to the
 * Bootstrap, chapter 13). The resampling is seeded: the same values give the same interval.
 */
export function medianDifference(before: ArrayLike<number>, after: ArrayLike<number>): MedianDifference {
  const random = seededRandom(SEED);
  const resampled = (values: ArrayLike<number>) =>
    median(Float64Array.from({ length: values.length }, () => values[Math.floor(random() * values.length)]!));
  const differences = Float64Array.from({ length: RESAMPLES }, () => {
    const middle = resampled(before);
    return resampled(after) - middle;
  }).sort();
  return {
    difference: median(after) - median(before),
    low: differences[Math.floor(RESAMPLES * 0.025)]!,
    high: differences[Math.ceil(RESAMPLES * 0.975) - 1]!,
  };
}
