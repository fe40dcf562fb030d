import type { ComparedAnatomies, TypicalAnatomy } from '../compare/compare-anatomies';
import { outcomeWords } from './comparison-words';
import type { Proof } from './proof';
import { MAX_SERIES, SERIES_HEIGHT, seriesRow } from './series-picture';
import {
  INK,
  PHASE_FILLS,
  PICTURE_LEFT,
  PICTURE_MARGIN,
  PICTURE_RIGHT,
  PICTURE_WIDTH,
  STING,
  soft,
  svgPicture,
  text,
} from './svg-parts';

const HEAD = 92;
const ANATOMY = 104;
const NAMES = { before: 'before', after: 'after' };

function anatomyBar(anatomy: TypicalAnatomy | undefined, x: (ms: number) => number, y: number): string {
  if (anatomy === undefined) return text(PICTURE_LEFT, y + 14, 'not done', soft);
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
  const x = (ms: number) => PICTURE_LEFT + (ms / most) * (PICTURE_RIGHT - PICTURE_LEFT);
  return [
    text(PICTURE_MARGIN, top + 16, `${label}: the middle attempt`, `fill="${INK}" font-weight="bold"`),
    text(PICTURE_MARGIN, top + 42, 'before', soft),
    text(PICTURE_MARGIN, top + 70, 'after', soft),
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
  const anatomyTop = seriesTop + shown.length * SERIES_HEIGHT;
  const height = anatomyTop + anatomies.length * ANATOMY + 30;
  const left = series.length - shown.length;
  return svgPicture(PICTURE_WIDTH, height, [
    text(
      PICTURE_MARGIN,
      34,
      after.header.title || after.header.target.title,
      `fill="${INK}" font-size="20" font-weight="bold"`,
    ),
    text(PICTURE_MARGIN, 58, `Before and after: ${outcomeWords(series)}`),
    text(
      PICTURE_MARGIN,
      78,
      'Each point is one attempt, from the input to the screen; the bar is their median, the dashed line the budget.',
      soft,
    ),
    ...warnings.map((warning, at) =>
      text(PICTURE_MARGIN, HEAD + 4 + at * 18, warning, `fill="${STING}" font-size="13"`),
    ),
    ...shown.map((one, at) => seriesRow(one, seriesTop + at * SERIES_HEIGHT, thresholds.responseMs, NAMES)),
    ...anatomies.map((one, at) => anatomyRow(one, anatomyTop + at * ANATOMY)),
    text(PICTURE_MARGIN, height - 12, left > 0 ? `${left} more are not in this picture.` : '', soft),
  ]);
}
