import { describe, expect, it } from 'vitest';
import { trendPage, trendReport, trendSentences, trendWarning } from '../report/trend-page';
import { seededRandom } from '../statistics/random';
import { TAPPED, tapped } from '../testing/tapped';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { trendOf, trendRecording, type TrendRecording } from './trend';

const DAY = 86_400_000;
const BOARD = 'Tap button “Board all”';
const QUIET = 'Key “Search manifest”';

/** A recording of a day, with the medians of two things that were done. */
function recordingOf(
  day: number,
  boardMs: number,
  searchMs: number,
  make = 'Blink 156, computer',
): TrendRecording {
  return {
    title: `release ${day}`,
    startedAt: new Date(Date.UTC(2026, 9, 1) + day * DAY).toISOString(),
    make,
    medians: new Map([
      [BOARD, { ms: boardMs, isBound: false }],
      [QUIET, { ms: searchMs, isBound: searchMs <= 16 }],
    ]),
  };
}

const random = seededRandom(4);
const noisy = (ms: number) => ms * Math.exp(0.2 * random());
const days = Array.from({ length: 20 }, (_, day) => recordingOf(day, noisy(day < 12 ? 180 : 320), noisy(60)));

describe('a trend of recordings', () => {
  it('says from which recording on something became slower, in whichever order they are given', () => {
    const trend = trendOf([...days].reverse());
    expect(trend.recordings.map(({ title }) => title)).toEqual(days.map(({ title }) => title));
    const [first, second] = trend.series;
    expect(first!.label).toBe(BOARD);
    expect(second!.changes).toEqual([]);
    expect(trendSentences(first!)).toEqual([
      expect.stringMatching(
        /^slower from “release 1[123]” \(Oct 1[234], 2026\) on: 3\d\d ms, before \d\d\d ms$/,
      ),
    ]);
  });

  it('says nothing of few recordings', () => {
    expect(trendOf(days.slice(9, 14)).series.flatMap(({ changes }) => changes)).toEqual([]);
  });

  it('warns where they were made in different ways', () => {
    expect(trendWarning(trendOf(days))).toBe('');
    expect(trendWarning(trendOf([...days, recordingOf(30, 200, 60, 'Gecko 153, computer')]))).toContain(
      'Gecko 153',
    );
  });

  it('keeps of a recording the medians of what was done', () => {
    const recording = tapped(90, 120, 700);
    const kept = trendRecording(recording, DEFAULT_THRESHOLDS);
    expect(kept.medians.get(TAPPED)?.ms).toBe(120);
    expect(kept.startedAt).toBe(recording.header.startedAt);
  });

  it('is written as JSON and as a page that refers to nothing outside and runs nothing', () => {
    const trend = trendOf([...days, recordingOf(21, 300, 16)]);
    const page = trendPage(trend, 'Trend of <quay>', 200);
    expect(page).not.toMatch(/<script|<quay>|(?:href|src)=/);
    expect(page.match(/<circle/g)).toHaveLength(2 * 21);
    expect(page).toContain('below 16 ms');
    const report = JSON.parse(JSON.stringify(trendReport(trend))) as {
      series: { label: string; changes: { title: string; before: number; after: number }[] }[];
    };
    expect(report.series[0]!.changes[0]!.after).toBeGreaterThan(report.series[0]!.changes[0]!.before);
  });
});
