import type { Anatomy } from '../explanation/anatomy';
import { budgetText } from '../stings/felt-text';
import { numberText, roundText } from '../words/figures';
import { escapeXml } from './escape-xml';
import {
  INK,
  LIBRARY_FILL,
  LINE,
  OWN_FILL,
  PHASE_FILLS,
  STING,
  STING_WASH,
  soft,
  svgPicture,
  text,
} from './svg-parts';
import type { StingProof } from './sting-proof';

const WIDTH = 960;
const MARGIN = 24;
const LEFT = MARGIN;
const RIGHT = WIDTH - MARGIN;
const LINE_HEIGHT = 19;
/** So wide a letter is taken to be: pictures have nothing to measure words with. Pixels. */
const LETTER = 7.4;
const ROW = 21;
const MAX_ROWS = 8;
const BROWSER = '#8a918d';
const MIN_WIDTH = 0.6;
const TICKS = 6;

/** A sting as one picture in SVG: its sentence, and where its time went. */
export function stingPicture({ title, because, anatomy, made, nameOf }: StingProof): string {
  const sentence = wrapped(because, (RIGHT - LEFT) / LETTER);
  const top = 58 + sentence.length * LINE_HEIGHT + 22;
  const { drawing, height } = drawingOf(anatomy, nameOf, top);
  const foot = wrapped(made.join(' '), ((RIGHT - LEFT) / LETTER) * 1.15);
  const footTop = top + height + 28;
  return svgPicture(WIDTH, footTop + foot.length * 16 + 6, [
    text(MARGIN, 34, title, `fill="${INK}" font-size="20" font-weight="bold"`),
    ...sentence.map((line, at) => text(MARGIN, 62 + at * LINE_HEIGHT, line)),
    ...drawing,
    ...foot.map((line, at) => text(MARGIN, footTop + at * 16, line, soft)),
  ]);
}

/** The drawing alone, for a page that has the words. */
export function stingDrawing({ anatomy, nameOf }: StingProof): string {
  const { drawing, height } = drawingOf(anatomy, nameOf, 24);
  return svgPicture(WIDTH, height + 30, drawing);
}

function drawingOf(
  { sting, phases, blocks, stems }: Anatomy,
  nameOf: StingProof['nameOf'],
  top: number,
): { drawing: string[]; height: number } {
  const scale = (RIGHT - LEFT) / Math.max(1e-6, sting.endMs - sting.startMs);
  const x = (ms: number) =>
    LEFT + (Math.min(sting.endMs, Math.max(sting.startMs, ms)) - sting.startMs) * scale;
  const shown = [...blocks, ...stems].filter(({ depth }) => depth < MAX_ROWS);
  const rows = 1 + Math.max(0, ...shown.map(({ depth }) => depth));
  const blocksTop = top + 34;
  const bottom = blocksTop + rows * ROW + 4;
  const budgetX = sting.isRate ? Infinity : LEFT + sting.budgetMs * scale;
  const box = (
    startMs: number,
    endMs: number,
    y: number,
    height: number,
    fill: string,
    words: string,
    ink: string,
  ) => {
    const width = Math.max(MIN_WIDTH, x(endMs) - x(startMs));
    const room = Math.floor((width - 10) / LETTER);
    const told = words.length <= room ? words : room > 4 ? `${words.slice(0, room - 1)}…` : '';
    const label = told === '' ? '' : text(x(startMs) + 5, y + 14, told, `fill="${ink}" font-size="13"`);
    const about = `<title>${escapeXml(`${words}: ${roundText(endMs - startMs)} ms`)}</title>`;
    return `<g>${about}<rect x="${x(startMs).toFixed(1)}" y="${y}" width="${width.toFixed(1)}" height="${height}" fill="${fill}"/>${label}</g>`;
  };
  return {
    height: bottom + 18 - top,
    drawing: [
      ...(budgetX < RIGHT
        ? [
            `<rect x="${budgetX.toFixed(1)}" y="${top - 4}" width="${(RIGHT - budgetX).toFixed(1)}" height="${bottom - top + 4}" fill="${STING_WASH}"/>`,
          ]
        : []),
      ...phases
        .filter(({ startMs, endMs }) => endMs > startMs)
        .map(({ name, startMs, endMs }) =>
          box(
            startMs,
            endMs,
            top,
            22,
            PHASE_FILLS[name],
            `${name} ${roundText(endMs - startMs)} ms`,
            name === 'handling' ? '#ffffff' : INK,
          ),
        ),
      ...shown.map(({ functionId, depth, startMs, endMs, owner }) => {
        const fill = owner === 'own' ? OWN_FILL : owner === 'library' ? LIBRARY_FILL : BROWSER;
        return box(
          startMs,
          endMs,
          blocksTop + depth * ROW,
          ROW - 1,
          fill,
          nameOf(functionId),
          owner === 'own' ? '#ffffff' : INK,
        );
      }),
      `<line x1="${LEFT}" x2="${RIGHT}" y1="${bottom}" y2="${bottom}" stroke="${LINE}"/>`,
      ...ticks(sting.endMs - sting.startMs).map((ms) => {
        const at = LEFT + ms * scale;
        const anchor = ms === 0 ? 'start' : at > RIGHT - 40 ? 'end' : 'middle';
        return text(
          at,
          bottom + 14,
          `${numberText(ms)}${ms === 0 ? ' ms' : ''}`,
          `${soft} text-anchor="${anchor}"`,
        );
      }),
      ...(budgetX < RIGHT
        ? [
            `<line x1="${budgetX.toFixed(1)}" x2="${budgetX.toFixed(1)}" y1="${top - 4}" y2="${bottom}" stroke="${STING}" stroke-dasharray="4 3"/>`,
            text(
              budgetX + (budgetX > RIGHT - 130 ? -4 : 4),
              top - 8,
              `budget ${budgetText(sting)}`,
              `fill="${STING}" font-size="12" text-anchor="${budgetX > RIGHT - 130 ? 'end' : 'start'}"`,
            ),
          ]
        : []),
    ],
  };
}

/** Round lengths along an axis, from 0. */
function ticks(lengthMs: number): number[] {
  const rough = lengthMs / TICKS;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((times) => times * power).find((one) => one >= rough)!;
  return Array.from({ length: Math.floor(lengthMs / step) + 1 }, (_, at) => at * step);
}

/** Words in lines of at most so many letters. */
function wrapped(words: string, letters: number): string[] {
  const lines: string[] = [];
  for (const word of words.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= letters)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}
