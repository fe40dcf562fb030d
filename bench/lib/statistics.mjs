/** Medians, and ratios of medians with an interval, from a seeded bootstrap (Efron 1979), so that it can be repeated. */

export function medianOf(values) {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** The value that a quarter of them do not exceed: of times, one to which little was added by whatever else ran. */
export function lowerQuartileOf(values) {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[(sorted.length - 1) >> 2];
}

const RESAMPLES = 2000;

/** @param pairs measured in turn: of the one, of the other */
export function ratioOf(pairs) {
  const ratio = (sample) => medianOf(sample.map(([a]) => a)) / medianOf(sample.map(([, b]) => b));
  let state = 7;
  const random = () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
  const ratios = Array.from({ length: RESAMPLES }, () =>
    ratio(Array.from(pairs, () => pairs[Math.floor(random() * pairs.length)])),
  ).sort((a, b) => a - b);
  return {
    ratio: ratio(pairs),
    low: ratios[Math.floor(RESAMPLES * 0.025)],
    high: ratios[Math.floor(RESAMPLES * 0.975)],
  };
}
