import type { Thresholds } from '../format/thresholds';
import { modeWordsOf } from '../format/header';
import type { Recording } from '../recording/recording';
import { changePoints, type ChangePoint } from '../statistics/change-points';
import { LEVEL } from '../statistics/level';
import { rankValue, sideOf } from './compare-series';
import { runsOf, type Delay } from './series-runs';

/** A recording as a trend knows it: what was done in it, each by the median. */
export interface TrendRecording {
  readonly title: string;
  /** As ISO 8601. */
  readonly startedAt: string;
  /** How it was made: engine, device, mode. Points of another make are hard to compare. */
  readonly make: string;
  readonly medians: ReadonlyMap<string, Delay>;
}

/** The medians of one thing that was done, in order of time. */
export interface TrendSeries {
  readonly label: string;
  readonly points: readonly { readonly recording: TrendRecording; readonly delay: Delay }[];
  /** From which points on it is on another level. */
  readonly changes: readonly ChangePoint[];
}

/** What became of everything that was done, over recordings. */
export interface Trend {
  /** In order of time. */
  readonly recordings: readonly TrendRecording[];
  /** Series with changes first, then by their last median. */
  readonly series: readonly TrendSeries[];
  /** Error rate of each series. */
  readonly level: number;
}

/** Fewer recordings than this could not show a change. */
export const MIN_TREND = 6;

/** What a trend keeps of a recording, which need not be kept itself. */
export function trendRecording(recording: Recording, thresholds: Thresholds): TrendRecording {
  const { header } = recording;
  const medians = new Map<string, Delay>();
  for (const [label, runs] of runsOf(recording, thresholds, new Set())) {
    if (!runs.isInteraction) continue;
    const { medianMs, medianIsBound } = sideOf(runs.delays);
    if (medianMs !== undefined) medians.set(label, { ms: medianMs, isBound: medianIsBound });
  }
  return {
    title: header.title || header.target.title || header.target.url,
    startedAt: header.startedAt,
    make: `${header.target.engine}, ${header.target.device}, ${modeWordsOf(header)}`,
    medians,
  };
}

/**
 * Follows what was done over recordings. The error rate is shared out evenly among the series that have enough recordings
 * to be tested (Bonferroni), as each is a row of tests in itself.
 */
export function trendOf(given: readonly TrendRecording[]): Trend {
  const recordings = [...given].sort((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt));
  const labels = [...new Set(recordings.flatMap(({ medians }) => [...medians.keys()]))];
  const rows = labels.map((label) => ({
    label,
    points: recordings.flatMap((recording) => {
      const delay = recording.medians.get(label);
      return delay === undefined ? [] : [{ recording, delay }];
    }),
  }));
  const tested = rows.filter(({ points }) => points.length >= MIN_TREND).length;
  const level = LEVEL / Math.max(1, tested);
  const series = rows.map((row): TrendSeries => {
    const changes =
      row.points.length < MIN_TREND
        ? []
        : changePoints(
            row.points.map(({ delay }) => rankValue(delay)),
            level,
          );
    return { ...row, changes };
  });
  const last = ({ points }: TrendSeries) => points.at(-1)!.delay.ms;
  return {
    recordings,
    series: series.sort(
      (a, b) => Number(b.changes.length > 0) - Number(a.changes.length > 0) || last(b) - last(a),
    ),
    level,
  };
}
