import type { Thresholds } from '../format/thresholds';
import { cutText } from '../words/cut-text';
import { outcomeWords } from './comparison-words';
import { MAX_SERIES, SERIES_HEIGHT, seriesRow } from './series-picture';
import { INK, PICTURE_MARGIN, PICTURE_WIDTH, soft, svgPicture, text } from './svg-parts';
import type { Versus, VersusRun } from './versus-report';

const HEAD = 104;
const RUN_HEAD = 34;
const FOOT = 30;
const LETTERS = { before: 'A', after: 'B' };
/** Letters of an address that fit on a line. */
const LINE = 118;

interface Placed {
  readonly height: number;
  readonly draw: (top: number) => string[];
}

function placed(run: VersusRun, { responseMs }: Thresholds): Placed {
  const { series } = run.comparison;
  const shown = series.slice(0, MAX_SERIES);
  const left = series.length - shown.length;
  return {
    height: RUN_HEAD + shown.length * SERIES_HEIGHT + FOOT,
    draw: (top) => [
      text(
        PICTURE_MARGIN,
        top + 18,
        `${run.browser}, ${run.done} loads of each: ${outcomeWords(series)}`,
        `fill="${INK}" font-size="16"`,
      ),
      ...shown.map((one, at) => seriesRow(one, top + RUN_HEAD + at * SERIES_HEIGHT, responseMs, LETTERS)),
      text(
        PICTURE_MARGIN,
        top + RUN_HEAD + shown.length * SERIES_HEIGHT + 14,
        left > 0 ? `${left} more are not in this picture.` : '',
        soft,
      ),
    ],
  };
}

/** A versus run as one picture in SVG, which needs no other file and runs no script. */
export function versusPicture({ before, after, runs }: Versus, thresholds: Thresholds): string {
  const all = runs.map((run) => placed(run, thresholds));
  const tops = all.map((_, at) => HEAD + all.slice(0, at).reduce((sum, { height }) => sum + height, 0));
  const height = HEAD + all.reduce((sum, one) => sum + one.height, 0);
  return svgPicture(PICTURE_WIDTH, height, [
    text(PICTURE_MARGIN, 34, 'A against B', `fill="${INK}" font-size="20" font-weight="bold"`),
    text(PICTURE_MARGIN, 56, cutText(`A: ${before}`, LINE)),
    text(PICTURE_MARGIN, 74, cutText(`B: ${after}`, LINE)),
    text(
      PICTURE_MARGIN,
      94,
      'Each point is one fresh load, the median of what was done in it; the bar is the median of the loads, the dashed line the budget.',
      soft,
    ),
    ...all.flatMap((one, at) => one.draw(tops[at]!)),
  ]);
}
