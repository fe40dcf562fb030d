import type { Recording } from '../recording/recording';
import type { Thresholds } from '../format/thresholds';
import { compareRuns, sideOf, stungLabels, testedOf, type ComparedSeries } from './compare-series';
import { LEVEL } from '../statistics/level';
import { runsOf, type Delay, type Runs } from './series-runs';
import { typicalLoad } from './typical-load';

/** What two addresses, or two versions, are held against each other by: fresh loads of each, in turn. */
export interface LoadComparison {
  readonly series: readonly ComparedSeries[];
  /** How many series had enough loads to be tested. */
  readonly tested: number;
  /** Loads of each side. */
  readonly loads: { readonly before: number; readonly after: number };
  /** The load of each side, by its place, whose values lie nearest to the medians of all. */
  readonly typical: { readonly before: number; readonly after: number };
  /** Error rate over all series together, of this look at them. */
  readonly level: number;
}

/** What one load is worth in a series: the median of what was done in it under one label. */
function delayOfLoad(delays: readonly Delay[]): Delay {
  const { medianMs, medianIsBound } = sideOf(delays);
  return { ms: medianMs!, isBound: medianIsBound };
}

interface SideOfLoads {
  /** By label: one value for each load in which there were any. */
  readonly runs: ReadonlyMap<string, Runs>;
  readonly typical: number;
}

function sideOfLoads(
  loads: readonly Recording[],
  thresholds: Thresholds,
  stung: ReadonlySet<string>,
): SideOfLoads {
  const runs = new Map<string, Runs>();
  const values = new Map<string, Map<number, Delay>>();
  for (const [at, load] of loads.entries()) {
    for (const [label, ofLoad] of runsOf(load, thresholds, stung)) {
      const ofLoads = values.get(label) ?? new Map<number, Delay>();
      values.set(label, ofLoads.set(at, delayOfLoad(ofLoad.delays)));
      runs.set(label, { ...ofLoad, delays: [...ofLoads.values()] });
    }
  }
  return { runs, typical: typicalLoad(loads.length, values) };
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
  const loads = { before: before.length, after: after.length };
  const was = sideOfLoads(before, thresholds, stung);
  const is = sideOfLoads(after, thresholds, stung);
  const series = compareRuns(
    {
      was: was.runs,
      is: is.runs,
      recordings: { before: before[0]!, after: after[0]! },
      loads,
    },
    level,
  );
  return {
    series,
    tested: testedOf(series),
    loads,
    typical: { before: was.typical, after: is.typical },
    level,
  };
}
