/** Milliseconds to the microsecond, which is as closely as times are kept and told. */
export function roundMs(ms: number): number {
  return Math.round(ms * 1000) / 1000;
}
