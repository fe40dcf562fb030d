import type { Trial } from '../trials/trial';
import type { AlternativeResult } from '../trials/trial-result';
import { runText } from '../trials/trial-words';
import { cutText } from '../words/cut-text';
import { trialSentences, whereWords, type TrialRun } from './trial-report';
import {
  INK,
  LINE,
  PICTURE_LEFT,
  PICTURE_MARGIN,
  PICTURE_RIGHT,
  PICTURE_WIDTH,
  STING,
  soft,
  svgPicture,
  text,
} from './svg-parts';

const HEAD = 74;
const RUN_HEAD = 30;
const ROW = 46;
const SENTENCE = 20;
const FOOT = 22;
/** Letters of a sentence that fit on a line. */
const LETTERS = 128;
const DOT = '#4a5a52';

function alternativeRow({ name, runMs, medianMs }: AlternativeResult, top: number, mostMs: number): string[] {
  const x = (ms: number) => PICTURE_LEFT + (ms / mostMs) * (PICTURE_RIGHT - PICTURE_LEFT);
  const y = top + 30;
  const dots = runMs.map(
    (ms) => `<circle cx="${x(ms).toFixed(1)}" cy="${y}" r="4" fill="${DOT}" fill-opacity="0.45"/>`,
  );
  const middle =
    medianMs === undefined
      ? text(PICTURE_LEFT, y + 4, 'not timed', `fill="${STING}" font-size="12"`)
      : `<line x1="${x(medianMs).toFixed(1)}" x2="${x(medianMs).toFixed(1)}" y1="${y - 9}" y2="${y + 9}" stroke="${INK}" stroke-width="2"/>${text(PICTURE_RIGHT + 14, y + 4, runText(medianMs))}`;
  return [
    text(PICTURE_MARGIN, top + 14, cutText(name, LETTERS), `fill="${INK}" font-weight="bold"`),
    `<line x1="${PICTURE_LEFT}" x2="${PICTURE_RIGHT}" y1="${y}" y2="${y}" stroke="${LINE}"/>`,
    ...dots,
    middle,
  ];
}

function runPart(trial: Trial, run: TrialRun, top: number): { height: number; parts: string[] } {
  const { alternatives, starts } = run.result;
  const mostMs = Math.max(Number.MIN_VALUE, ...alternatives.flatMap(({ runMs }) => runMs));
  const sentences = trialSentences(trial, run.result);
  const below = top + RUN_HEAD + alternatives.length * ROW + 10;
  return {
    height: RUN_HEAD + alternatives.length * ROW + sentences.length * SENTENCE + FOOT,
    parts: [
      text(
        PICTURE_MARGIN,
        top + 18,
        `${whereWords(run)}, ${starts} fresh starts`,
        `fill="${INK}" font-size="16"`,
      ),
      ...alternatives.flatMap((one, at) => alternativeRow(one, top + RUN_HEAD + at * ROW, mostMs)),
      ...sentences.map((words, at) =>
        text(PICTURE_MARGIN, below + at * SENTENCE + 8, cutText(words, LETTERS), soft),
      ),
    ],
  };
}

/** A trial as one picture in SVG, which needs no other file and runs no script. */
export function trialPicture(trial: Trial, runs: readonly TrialRun[]): string {
  const parts: string[] = [];
  let top = HEAD;
  for (const run of runs) {
    const made = runPart(trial, run, top);
    parts.push(...made.parts);
    top += made.height;
  }
  return svgPicture(PICTURE_WIDTH, top, [
    text(PICTURE_MARGIN, 34, cutText(trial.name, LETTERS), `fill="${INK}" font-size="20" font-weight="bold"`),
    text(
      PICTURE_MARGIN,
      56,
      'Each point is one fresh start, the time of one run in it; the bar is the median of the starts.',
      soft,
    ),
    ...parts,
  ]);
}
