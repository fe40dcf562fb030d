/**
 * A time without what rounding adds to a difference of two times: 110 where a page's clock of whole milliseconds says 110 and
 * the difference of its doubles 109.99999999999977.
 * @param ms in ms
 * @returns the same to a nanosecond, in ms
 */
export const inNanoseconds = (ms: number): number => Math.round(ms * 1e6) / 1e6;
