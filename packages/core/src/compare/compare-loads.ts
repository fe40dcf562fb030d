import type { Recording } from '../recording/recording';
import type { Thresholds } from '../format/thresholds';
import { compareRuns, sideOf, stungLabels, testedOf, type ComparedSeries } from './compare-series';
import { LEVEL } from '../statistics/level';
import { runsOf, type Delay, type Runs } from './series-runs';

/** What two addresses, or two versions, are held against each other by: fresh loads of each, in turn. */
export interface LoadComparison {
  readonly series: readonly ComparedSeries[];
  /** How many series had enough loads to be tested. */
  readonly tested: number;
  /** Loads of each side. */
  readonly loads: { readonly before: number; readonly after: number };
  /** Error rate over all series together, of this look at them. */
  readonly level: number;
}

/** What one load is worth in a series: the median of what was done in it under one label. */
function delayOfLoad(delays: readonly Delay[]): Delay {
  const { medianMs, medianIsBound } = sideOf(delays);
  return { ms: medianMs!, isBound: medianIsBound };
}

/** The runs of all loads of one side, by label: one value for each load in which there were any. */
function runsOfLoads(
  loads: readonly Recording[],
  thresholds: Thresholds,
  stung: ReadonlySet<string>,
): ReadonlyMap<string, Runs> {
  const all = new Map<string, Runs>();
  for (const load of loads) {
    for (const [label, runs] of runsOf(load, thresholds, stung)) {
      const delays = [...(all.get(label)?.delays ?? []), delayOfLoad(runs.delays)];
      all.set(label, { ...runs, delays });
    }
  }
  return all;
}

/**
 * Compares loads of two versions, label by label, the largest change first. The load is the unit: what was done several
 * times in one load shares its luck.
 * @param before loads of one version, at least one
 * @param after loads of the other, at least one
 * @param level error rate over all series together
 */
export function compareLoads(
  before: readonly Recording[],
  after: readonly Recording[],
  thresholds: Thresholds,
  level = LEVEL,
): LoadComparison {
  const stung = stungLabels([...before, ...after], thresholds);
  const series = compareRuns(
    {
      was: runsOfLoads(before, thresholds, stung),
      is: runsOfLoads(after, thresholds, stung),
      recordings: { before: before[0]!, after: after[0]! },
    },
    level,
  );
  return { series, tested: testedOf(series), loads: { before: before.length, after: after.length }, level };
}
