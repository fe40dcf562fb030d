import type { SeriesSide } from '@nettle-patch/core';

/** Where the values of one recording lie on an axis that begins at nothing. Percent of its length. */
export interface Spread {
  readonly from: number;
  readonly width: number;
  readonly median: number;
}

/** @param mostMs the end of the axis. @returns undefined where there are no values */
export function spreadOf({ delays, medianMs }: SeriesSide, mostMs: number): Spread | undefined {
  if (medianMs === undefined) return undefined;
  const percent = (ms: number) => (100 * ms) / mostMs;
  const least = delays.reduce((found, { ms }) => Math.min(found, ms), Infinity);
  const most = delays.reduce((found, { ms }) => Math.max(found, ms), 0);
  return { from: percent(least), width: percent(most - least), median: percent(medianMs) };
}
