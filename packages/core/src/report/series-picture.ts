import type { ComparedSeries, SeriesSide } from '../compare/compare-series';
import { boundWords, changeWords, verdictWords } from './comparison-words';
import { escapeXml } from './escape-xml';
import {
  INK,
  LINE,
  PICTURE_LEFT,
  PICTURE_MARGIN,
  PICTURE_RIGHT,
  PICTURE_WIDTH,
  STING,
  soft,
  text,
} from './svg-parts';

/** How much room a series takes from top to bottom. Pixels. */
export const SERIES_HEIGHT = 84;
/** So many series are drawn in one picture. */
export const MAX_SERIES = 8;
const BEFORE = '#56625d';
const AFTER = '#4a5a52';

/** The values of one side as points, open before and filled after, with a bar at their median. */
function points(
  { delays, medianMs, medianIsBound }: SeriesSide,
  x: (ms: number) => number,
  y: number,
  after: boolean,
) {
  const look = after ? `fill="${AFTER}"` : `fill="none" stroke="${BEFORE}" stroke-width="1.8"`;
  const dots = delays.map(({ ms, isBound }) =>
    isBound
      ? `<line x1="${x(0).toFixed(1)}" x2="${x(ms).toFixed(1)}" y1="${y}" y2="${y}" stroke="${BEFORE}" stroke-width="3"><title>below ${ms} ms</title></line>`
      : `<circle cx="${x(ms).toFixed(1)}" cy="${y}" r="4.5" ${look}/>`,
  );
  if (medianMs === undefined) return text(PICTURE_LEFT, y + 4, 'not done', soft);
  const at = x(medianMs).toFixed(1);
  const bar = `<line x1="${at}" x2="${at}" y1="${y - 10}" y2="${y + 10}" stroke="${INK}" stroke-width="2"/>`;
  return [...dots, bar, text(PICTURE_RIGHT + 14, y + 4, boundWords(medianMs, medianIsBound))].join('');
}

/** What the two sides of a series are called. */
export interface SideNames {
  readonly before: string;
  readonly after: string;
}

/** The values of both sides of a series on one axis, with the verdict on them. @param top where it begins, in pixels */
export function seriesRow(series: ComparedSeries, top: number, budgetMs: number, names: SideNames): string {
  const { label, before, after, isInteraction } = series;
  const most = Math.max(before.worstMs ?? 0, after.worstMs ?? 0, 1);
  const x = (ms: number) => PICTURE_LEFT + (ms / most) * (PICTURE_RIGHT - PICTURE_LEFT);
  const change = changeWords(series);
  const words = `${verdictWords(series.verdict)}${change === '' ? '' : `: ${change}`}`;
  const look = `fill="${series.verdict === 'slower' || series.verdict === 'new' ? STING : INK}"`;
  const budget =
    isInteraction && budgetMs < most
      ? `<line x1="${x(budgetMs).toFixed(1)}" x2="${x(budgetMs).toFixed(1)}" y1="${top + 26}" y2="${top + 72}" stroke="${STING}" stroke-dasharray="4 3"/>`
      : '';
  const track = (y: number) =>
    `<line x1="${PICTURE_LEFT}" x2="${PICTURE_RIGHT}" y1="${y}" y2="${y}" stroke="${LINE}"/>`;
  return [
    text(PICTURE_MARGIN, top + 16, label, `fill="${INK}" font-weight="bold"`),
    `<text x="${PICTURE_WIDTH - PICTURE_MARGIN}" y="${top + 16}" text-anchor="end" ${look}>${escapeXml(words)}</text>`,
    track(top + 38),
    track(top + 62),
    budget,
    text(PICTURE_MARGIN, top + 42, names.before, soft),
    text(PICTURE_MARGIN, top + 66, names.after, soft),
    points(before, x, top + 38, false),
    points(after, x, top + 62, true),
  ].join('\n');
}
