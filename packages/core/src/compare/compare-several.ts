import type { Recording } from '../recording/recording';
import { holm } from '../statistics/holm';
import { rankTest, smallestChance } from '../statistics/rank-test';
import { shiftOf } from '../statistics/shift';
import { DEFAULT_THRESHOLDS, type Thresholds } from '../format/thresholds';
import { missingFor, rankValue, sideOf, stungLabels, toldStepMs, type SeriesSide } from './compare-series';
import { LEVEL } from '../statistics/level';
import { runsOf, type Delay } from './series-runs';
import { severalFunctions, type SeveralFunction } from './several-functions';
import { warningsOf } from './compare';
import { standingsOf, type FirmPair, type Standing } from './standings';

/** How many recordings can be held against each other at once. */
export const MAX_SEVERAL = 8;

/** What was done, or went on, under the same label in several recordings. */
export interface SeveralSeries {
  readonly label: string;
  /** Whether somebody was waiting. */
  readonly isInteraction: boolean;
  /** What each recording has of it, in their order. */
  readonly sides: readonly SeriesSide[];
  /**
   * Where the test allows to say so: `best` is firmly quicker than at least one other and slower than none, `worst` the
   * reverse. Several can be so.
   */
  readonly standings: readonly Standing[];
  /** Differences below this are none that the sources could tell. Milliseconds. */
  readonly stepMs: number;
}

/** Several recordings of the same app, held against each other. */
export interface SeveralComparison {
  /** What makes the figures hard to compare, in words; to be read before any of them. */
  readonly warnings: readonly string[];
  /** How many pairs, of two recordings in one series, had enough values to be tested. */
  readonly tested: number;
  /** Runs of each recording that a pair needs to hold by itself, with so many pairs tested together. */
  readonly needed: number;
  readonly series: readonly SeveralSeries[];
  readonly functions: readonly SeveralFunction[];
}

/** That one recording differs from another, by their places in a series. */
interface Pair extends FirmPair {
  readonly series: number;
  readonly chance: number;
}

type Series = Omit<SeveralSeries, 'standings'>;

/** The pairs of recordings in a series that have enough values for a test. */
function pairsIn({ sides, stepMs }: Series, series: number): Pair[] {
  const values = (delays: readonly Delay[]) => delays.map(({ ms }) => ms);
  return sides.flatMap((one, first) =>
    sides.slice(first + 1).flatMap((other, offset): Pair[] => {
      if (smallestChance(one.count, other.count) > LEVEL) return [];
      const second = first + 1 + offset;
      const { p } = rankTest(one.delays.map(rankValue), other.delays.map(rankValue));
      const { difference } = shiftOf(values(one.delays), values(other.delays), LEVEL);
      const chance = Math.abs(difference) < stepMs ? 1 : p;
      return [
        difference < 0
          ? { series, quicker: second, slower: first, chance }
          : { series, quicker: first, slower: second, chance },
      ];
    }),
  );
}

function seriesOf(recordings: readonly Recording[], thresholds: Thresholds): Series[] {
  const stung = stungLabels(recordings, thresholds);
  const all = recordings.map((recording) => runsOf(recording, thresholds, stung));
  const labels = [...new Set(all.flatMap((runs) => [...runs.keys()]))];
  return labels.map((label): Series => {
    const isInteraction = all.some((runs) => runs.get(label)?.isInteraction === true);
    return {
      label,
      isInteraction,
      sides: all.map((runs) => sideOf(runs.get(label)?.delays ?? [])),
      stepMs: toldStepMs(recordings, isInteraction),
    };
  });
}

/**
 * Holds two to eight recordings against each other, the longest delays first. All pairs of all series are tested
 * together, by the rank test of Mann and Whitney, at an error rate of 5 % over all of them (Holm).
 */
export function compareSeveral(
  recordings: readonly Recording[],
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): SeveralComparison {
  const series = seriesOf(recordings, thresholds);
  const pairs = series.flatMap(pairsIn);
  const holds = holm(
    pairs.map(({ chance }) => chance),
    LEVEL,
  );
  const firm = pairs.filter((_, at) => holds[at]);
  const longest = ({ sides }: SeveralSeries) => Math.max(...sides.map(({ medianMs }) => medianMs ?? 0));
  return {
    warnings: warningsOf(
      recordings.map(({ header }) => header),
      recordings.map((_, at) => `in ${at + 1}`),
    ),
    tested: pairs.length,
    needed: missingFor(0, 0, LEVEL / Math.max(1, pairs.length)).before,
    series: series
      .map((one, at) => ({
        ...one,
        standings: standingsOf(
          recordings.length,
          firm.filter((pair) => pair.series === at),
        ),
      }))
      .sort(
        (a, b) =>
          Number(b.isInteraction) - Number(a.isInteraction) ||
          longest(b) - longest(a) ||
          (a.label < b.label ? -1 : 1),
      ),
    functions: severalFunctions(recordings),
  };
}
