import type { Recording } from '../recording/recording';
import { DEFAULT_THRESHOLDS, type Thresholds } from '../stings/thresholds';
import { compareFunctions, type ComparedFunction } from './compare-functions';
import { compareSeries, type ComparedSeries } from './compare-series';

/** How two recordings differ: first of all in how they were made. */
export interface Comparison {
  /** What makes the figures hard to compare, in words; to be read before any of them. */
  readonly warnings: readonly string[];
  readonly series: readonly ComparedSeries[];
  readonly functions: readonly ComparedFunction[];
}

function warningsOf({ header: before }: Recording, { header: after }: Recording): string[] {
  const differing = (what: string, a: string, b: string) =>
    a === b ? [] : [`The ${what} differs: ${a} before, ${b} after.`];
  const speed = (score: number | undefined) => (score === undefined ? 'not measured' : `${score.toFixed(1)}`);
  return [
    ...differing('device', before.target.device, after.target.device),
    ...differing('engine', before.target.engine, after.target.engine),
    ...differing('mode', before.mode, after.mode),
    ...(before.refreshMs === after.refreshMs || Math.abs(before.refreshMs - after.refreshMs) < 1
      ? []
      : differing(
          'display interval',
          `${before.refreshMs.toFixed(1)} ms`,
          `${after.refreshMs.toFixed(1)} ms`,
        )),
    ...differing('speed score', speed(before.speed), speed(after.speed)),
  ];
}

/** Compares two recordings of the same app, before a change and after it. */
export function compareRecordings(
  before: Recording,
  after: Recording,
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): Comparison {
  return {
    warnings: warningsOf(before, after),
    series: compareSeries(before, after, thresholds),
    functions: compareFunctions(before, after),
  };
}
