import type { ComparedAnatomies, TypicalAnatomy } from '../compare/compare-anatomies';
import type { ComparedSeries, SeriesSide } from '../compare/compare-series';
import { escapeXml } from './escape-xml';
import { boundWords, changeWords, outcomeWords, verdictWords } from './comparison-words';
import type { Proof } from './proof';
import { INK, LINE, PHASE_FILLS, STING, soft, svgPicture, text } from './svg-parts';

const WIDTH = 960;
const MARGIN = 24;
const LEFT = 90;
const RIGHT = WIDTH - 120;
const ROW = 84;
const HEAD = 92;
const ANATOMY = 104;
const MAX_SERIES = 8;
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
  if (medianMs === undefined) return text(LEFT, y + 4, 'not done', soft);
  const at = x(medianMs).toFixed(1);
  const bar = `<line x1="${at}" x2="${at}" y1="${y - 10}" y2="${y + 10}" stroke="${INK}" stroke-width="2"/>`;
  return [...dots, bar, text(RIGHT + 14, y + 4, boundWords(medianMs, medianIsBound))].join('');
}

function seriesRow(series: ComparedSeries, top: number, budgetMs: number): string {
  const { label, before, after, isInteraction } = series;
  const most = Math.max(before.worstMs ?? 0, after.worstMs ?? 0, 1);
  const x = (ms: number) => LEFT + (ms / most) * (RIGHT - LEFT);
  const change = changeWords(series);
  const words = `${verdictWords(series.verdict)}${change === '' ? '' : `: ${change}`}`;
  const look = `fill="${series.verdict === 'slower' || series.verdict === 'new' ? STING : INK}"`;
  const budget =
    isInteraction && budgetMs < most
      ? `<line x1="${x(budgetMs).toFixed(1)}" x2="${x(budgetMs).toFixed(1)}" y1="${top + 26}" y2="${top + 72}" stroke="${STING}" stroke-dasharray="4 3"/>`
      : '';
  const track = (y: number) => `<line x1="${LEFT}" x2="${RIGHT}" y1="${y}" y2="${y}" stroke="${LINE}"/>`;
  return [
    text(MARGIN, top + 16, label, `fill="${INK}" font-weight="bold"`),
    `<text x="${WIDTH - MARGIN}" y="${top + 16}" text-anchor="end" ${look}>${escapeXml(words)}</text>`,
    track(top + 38),
    track(top + 62),
    budget,
    text(MARGIN, top + 42, 'before', soft),
    text(MARGIN, top + 66, 'after', soft),
    points(before, x, top + 38, false),
    points(after, x, top + 62, true),
  ].join('\n');
}

function anatomyBar(anatomy: TypicalAnatomy | undefined, x: (ms: number) => number, y: number): string {
  if (anatomy === undefined) return text(LEFT, y + 14, 'not done', soft);
  const parts = anatomy.phases.map(({ name, startMs, endMs }) => {
    const [from, width] = [x(startMs), x(endMs) - x(startMs)];
    const title = `<title>${name}: ${Math.round(endMs - startMs)} ms</title>`;
    const words =
      width > 74
        ? text(
            from + 5,
            y + 14,
            `${name} ${Math.round(endMs - startMs)}`,
            `font-size="12" fill="${name === 'handling' ? '#ffffff' : INK}"`,
          )
        : '';
    return `<g>${title}<rect x="${from.toFixed(1)}" y="${y}" width="${Math.max(0.5, width).toFixed(1)}" height="20" fill="${PHASE_FILLS[name]}"/>${words}</g>`;
  });
  return [...parts, text(x(anatomy.feltMs) + 8, y + 14, `${Math.round(anatomy.feltMs)} ms`)].join('');
}

function anatomyRow({ label, before, after }: ComparedAnatomies, top: number): string {
  const budgetMs = (before ?? after)?.budgetMs ?? 0;
  const most = Math.max(before?.feltMs ?? 0, after?.feltMs ?? 0, budgetMs, 1);
  const x = (ms: number) => LEFT + (ms / most) * (RIGHT - LEFT);
  return [
    text(MARGIN, top + 16, `${label}: the middle attempt`, `fill="${INK}" font-weight="bold"`),
    text(MARGIN, top + 42, 'before', soft),
    text(MARGIN, top + 70, 'after', soft),
    anatomyBar(before, x, top + 28),
    anatomyBar(after, x, top + 56),
    `<line x1="${x(budgetMs).toFixed(1)}" x2="${x(budgetMs).toFixed(1)}" y1="${top + 24}" y2="${top + 80}" stroke="${STING}" stroke-dasharray="4 3"/>`,
    text(
      x(budgetMs) - 4,
      top + 94,
      `budget ${Math.round(budgetMs)} ms`,
      `fill="${STING}" font-size="11" text-anchor="${budgetMs > most / 2 ? 'end' : 'start'}"`,
    ),
  ].join('\n');
}

/** A comparison as one picture in SVG, which needs no other file and runs no script. */
export function comparisonPicture({ after, comparison, anatomies, thresholds }: Proof): string {
  const { series, warnings } = comparison;
  const shown = series.slice(0, MAX_SERIES);
  const seriesTop = HEAD + warnings.length * 18;
  const anatomyTop = seriesTop + shown.length * ROW;
  const height = anatomyTop + anatomies.length * ANATOMY + 30;
  const left = series.length - shown.length;
  return svgPicture(WIDTH, height, [
    text(
      MARGIN,
      34,
      after.header.title || after.header.target.title,
      `fill="${INK}" font-size="20" font-weight="bold"`,
    ),
    text(MARGIN, 58, `Before and after: ${outcomeWords(series)}`),
    text(
      MARGIN,
      78,
      'Each point is one attempt, from the input to the screen; the bar is their median, the dashed line the budget.',
      soft,
    ),
    ...warnings.map((warning, at) =>
      text(MARGIN, HEAD + 4 + at * 18, warning, `fill="${STING}" font-size="13"`),
    ),
    ...shown.map((one, at) => seriesRow(one, seriesTop + at * ROW, thresholds.responseMs)),
    ...anatomies.map((one, at) => anatomyRow(one, anatomyTop + at * ANATOMY)),
    text(MARGIN, height - 12, left > 0 ? `${left} more are not in this picture.` : '', soft),
  ]);
}
