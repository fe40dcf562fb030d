import type { Trend, TrendSeries } from '../compare/trend';
import { levelsOf } from '../statistics/change-points';
import { cutText } from '../words/cut-text';
import { durationText } from '../words/figures';
import { boundWords, levelWords } from './comparison-words';
import { escapeXml } from './escape-xml';
import { htmlPage, table } from './html-page';
import { INK, LINE, PICTURE_MARGIN, PICTURE_WIDTH, STING, soft, svgPicture, text } from './svg-parts';

/** Grows when a field of a trend changes its meaning or goes. */
export const TREND_VERSION = 1;

const LEFT = 70;
const RIGHT = PICTURE_WIDTH - PICTURE_MARGIN;
const TOP = 44;
const BOTTOM = 168;
const HEIGHT = 200;
const DOT = '#4a5a52';
const LABEL_LETTERS = 110;

/** "Nov 12, 2026", in the language of whoever runs it. */
function dateText(startedAt: string): string {
  return new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' }).format(
    new Date(startedAt),
  );
}

const medianWords = (ms: number) => (ms < 0 ? 'below what is told' : durationText(ms));

/** Each change of a series, in one sentence. */
export function trendSentences({ points, changes }: TrendSeries): string[] {
  return changes.map(({ at, before, after }) => {
    const { recording } = points[at]!;
    const word = after > before ? 'slower' : 'faster';
    return `${word} from “${recording.title}” (${dateText(recording.startedAt)}) on: ${medianWords(after)}, before ${medianWords(before)}`;
  });
}

/** How a trend was tested, and what is not known, in words. */
export function trendTestWords({ recordings, level }: Trend): string {
  return `${recordings.length} recordings, each by the median of what was done in it. Changes of level are tested by Pettitt’s rank statistic with drawn orders, at an error rate of 5 % over all series together (${levelWords(level)} for each). Where a change lies is known to one or two recordings, and the test takes recordings for independent of each other: a slow drift may be told as a step.`;
}

/** What makes the points of a trend hard to compare; empty where nothing does. */
export function trendWarning({ recordings }: Trend): string {
  const makes = [...new Set(recordings.map(({ make }) => make))];
  return makes.length < 2 ? '' : `Recordings were made in different ways: ${makes.join('; ')}.`;
}

/** What `nettle-patch trend --json` writes. Times are milliseconds. */
export function trendReport(trend: Trend): object {
  return {
    version: TREND_VERSION,
    level: trend.level,
    recordings: trend.recordings.map(({ title, startedAt, make }) => ({ title, startedAt, make })),
    series: trend.series.map(({ label, points, changes }) => ({
      label,
      points: points.map(({ recording, delay }) => ({ startedAt: recording.startedAt, ...delay })),
      changes: changes.map(({ at, ...change }) => ({
        from: points[at]!.recording.startedAt,
        title: points[at]!.recording.title,
        ...change,
      })),
    })),
  };
}

/** One series over time, to scale: a point for each recording, a line at each level, a mark at each change. */
function seriesPicture(series: TrendSeries, fromMs: number, toMs: number, budgetMs: number): string {
  const { label, points, changes } = series;
  const mostMs = Math.max(1, budgetMs, ...points.map(({ delay }) => delay.ms)) * 1.05;
  const x = (ms: number) => LEFT + ((ms - fromMs) / Math.max(1, toMs - fromMs)) * (RIGHT - LEFT);
  const y = (ms: number) => BOTTOM - (Math.max(0, ms) / mostMs) * (BOTTOM - TOP);
  const xOf = (at: number) => x(Date.parse(points[at]!.recording.startedAt));
  return svgPicture(PICTURE_WIDTH, HEIGHT, [
    text(PICTURE_MARGIN, 24, cutText(label, LABEL_LETTERS), `fill="${INK}" font-weight="bold"`),
    `<line x1="${LEFT}" x2="${RIGHT}" y1="${BOTTOM}" y2="${BOTTOM}" stroke="${LINE}"/>`,
    text(PICTURE_MARGIN - 8, TOP + 4, durationText(mostMs), soft),
    text(LEFT, BOTTOM + 20, dateText(new Date(fromMs).toISOString()), soft),
    `<text x="${RIGHT}" y="${BOTTOM + 20}" text-anchor="end" ${soft}>${escapeXml(dateText(new Date(toMs).toISOString()))}</text>`,
    `<line x1="${LEFT}" x2="${RIGHT}" y1="${y(budgetMs).toFixed(1)}" y2="${y(budgetMs).toFixed(1)}" stroke="${STING}" stroke-dasharray="4 3"/>`,
    ...levelsOf(changes, points.length).map(({ first, last, value }) => {
      const at = y(value).toFixed(1);
      return `<line x1="${xOf(first).toFixed(1)}" x2="${xOf(last).toFixed(1)}" y1="${at}" y2="${at}" stroke="${INK}" stroke-width="2"/>`;
    }),
    ...changes.map(({ at, before, after }) => {
      const where = (xOf(at) + xOf(at - 1)) / 2;
      return `<line x1="${where.toFixed(1)}" x2="${where.toFixed(1)}" y1="${TOP - 6}" y2="${BOTTOM}" stroke="${after > before ? STING : DOT}" stroke-width="1.5"/>`;
    }),
    ...points.map(
      ({ delay }, at) =>
        `<circle cx="${xOf(at).toFixed(1)}" cy="${y(delay.ms).toFixed(1)}" r="4" ${delay.isBound ? `fill="none" stroke="${DOT}" stroke-width="1.6"` : `fill="${DOT}"`}><title>${escapeXml(`${points[at]!.recording.title}, ${dateText(points[at]!.recording.startedAt)}: ${boundWords(delay.ms, delay.isBound)}`)}</title></circle>`,
    ),
  ]);
}

/** A trend as one HTML page that refers to nothing outside of itself and runs no script. @param budgetMs of a response */
export function trendPage(trend: Trend, title: string, budgetMs: number): string {
  const { recordings, series } = trend;
  const [fromMs, toMs] = [recordings[0], recordings.at(-1)].map((one) =>
    Date.parse(one?.startedAt ?? ''),
  ) as [number, number];
  const warning = trendWarning(trend);
  const shown = series.filter(({ points }) => points.length > 1);
  return htmlPage(title, [
    `<p class="s">${escapeXml(trendTestWords(trend))}</p>`,
    ...(warning === '' ? [] : [`<p class="w">${escapeXml(warning)}</p>`]),
    ...shown.flatMap((one) => [
      seriesPicture(one, fromMs, toMs, budgetMs),
      ...trendSentences(one).map((words) => `<p>${escapeXml(words)}.</p>`),
    ]),
    '<h2>Recordings</h2>',
    table(
      ['when', 'title', 'made'],
      recordings.map(({ title: name, startedAt, make }) => [[dateText(startedAt)], [name], [make, 's']]),
    ),
  ]);
}
