import { decimalText } from '../words/figures';
import { captureModeOf } from '../format/header';
import type { Recording } from '../recording/recording';
import { DEFAULT_THRESHOLDS, type Thresholds } from '../format/thresholds';
import { compareFunctions, type ComparedFunction } from './compare-functions';
import { compareSeries, testedOf, type ComparedSeries } from './compare-series';

/** How two recordings differ: first of all in how they were made. */
export interface Comparison {
  /** What makes the figures hard to compare, in words; to be read before any of them. */
  readonly warnings: readonly string[];
  /** What the comparison cannot know, in words. */
  readonly caveats: readonly string[];
  /** How many series had enough values to be tested. */
  readonly tested: number;
  readonly series: readonly ComparedSeries[];
  readonly functions: readonly ComparedFunction[];
}

/** Repeats in one recording share the luck of one load of the page. */
const ONE_LOAD =
  'One recording stands against one: what differs from load to load of the page is not controlled for.';

function warningsOf({ header: before }: Recording, { header: after }: Recording): string[] {
  const differing = (what: string, a: string, b: string) =>
    a === b ? [] : [`The ${what} differs: ${a} before, ${b} after.`];
  const speed = (score: number | undefined) => (score === undefined ? 'not measured' : decimalText(score, 1));
  return [
    ...differing('device', before.target.device, after.target.device),
    ...differing('engine', before.target.engine, after.target.engine),
    ...differing('mode', captureModeOf(before), captureModeOf(after)),
    ...(before.refreshMs === after.refreshMs || Math.abs(before.refreshMs - after.refreshMs) < 1
      ? []
      : differing(
          'display interval',
          `${decimalText(before.refreshMs, 1)} ms`,
          `${decimalText(after.refreshMs, 1)} ms`,
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
  const series = compareSeries(before, after, thresholds);
  return {
    warnings: warningsOf(before, after),
    caveats: [ONE_LOAD],
    tested: testedOf(series),
    series,
    functions: compareFunctions(before, after),
  };
}
