import { displayName, displayPlace, shortPlace } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';
import type { PhaseName } from './anatomy';
import { calledBetween } from './called-between';
import type { Culprit } from './culprits';
import { numberText, countText } from '../words/figures';

/** A piece of a sentence: plain words, a figure, or a name that leads somewhere. */
export type BecausePart =
  | { readonly type: 'text'; readonly text: string }
  | { readonly type: 'figure'; readonly text: string; readonly over?: boolean }
  | { readonly type: 'function'; readonly text: string; readonly functionId: number }
  | { readonly type: 'phase'; readonly text: string; readonly phase: PhaseName };

export const text = (words: string): BecausePart => ({ type: 'text', text: words });

/** Milliseconds, to the digit that means something. */
export const ms = (value: number, over = false): BecausePart => ({
  type: 'figure',
  text: `${value < 10 ? numberText(value, 1) : countText(value)} ms`,
  over,
});

/** "once", "3 times", "1,200 times". */
export const times = (value: number): string =>
  Math.round(value) === 1 ? 'once' : `${countText(value)} times`;

/**
 * ", called 1,200 times", or nothing of one call; of a quick function, of which one of many was timed, about as often; of
 * one whose calls were only counted, once a second, up to as often.
 * @param thread that it ran on
 * @param range in which it was called
 */
export function calledClause(
  recording: Recording,
  culprit: Pick<Culprit, 'functionId' | 'count'>,
  thread: number,
  range: TimeRange,
): string {
  const between = calledBetween(recording, culprit, thread, range);
  const most = between?.most ?? culprit.count;
  if (most <= 1) return '';
  if (between === undefined) return `, called about ${countText(Number(most.toPrecision(2)))} times`;
  return `, called ${between.least < most ? 'up to ' : ''}${countText(most)} times`;
}

/** All of it is said only of all of it. */
export const percent = (share: number): string =>
  `${share < 1 ? Math.min(99, Math.round(share * 100)) : 100} %`;

/** How functions without a name are called that stand in one that has one. */
const WITHIN = /^anonymous in (.+)$/;

/** A function by its name; one without by where it stands. */
export function functionPart(recording: Recording, functionId: number): BecausePart {
  const recorded = recording.functions.get(functionId);
  const name = displayName(recorded);
  const place = shortPlace(displayPlace(recorded, recording.sources.get(recorded?.source ?? -1)));
  const [, outer] = WITHIN.exec(name) ?? [];
  if (outer === undefined && name !== '(anonymous)') return { type: 'function', text: name, functionId };
  return { type: 'function', text: unnamedWords(outer, place), functionId };
}

function unnamedWords(outer: string | undefined, place: string): string {
  if (outer !== undefined) return `${UNNAMED} in ${outer}${place === '' ? '' : ` (${place})`}`;
  if (place === '') return UNNAMED;
  return /:\d+$/.test(place) ? `${UNNAMED} at ${place}` : `${CODE} in ${place}`;
}

/** Whether a function can be told from others by what it is called. */
export function isTold(part: BecausePart): boolean {
  return part.type === 'function' && part.text !== UNNAMED;
}

const UNNAMED = 'an unnamed function';
/** What is not even known to be a function: a script as a whole has no name and no line. */
const CODE = 'code';
const WORDS = new RegExp(`^(${UNNAMED}|${CODE} in)\\b`);

/** The same parts, but a sentence that begins with a function that has no name begins with a capital letter. */
export function capitalised(parts: readonly BecausePart[]): BecausePart[] {
  let before = '. ';
  return parts.map((part) => {
    const begins = before.endsWith('. ') && part.type === 'function' && WORDS.test(part.text);
    before = (before + part.text).slice(-2);
    return begins ? { ...part, text: part.text.charAt(0).toUpperCase() + part.text.slice(1) } : part;
  });
}

export const phaseLink = (phase: PhaseName, words: string): BecausePart => ({
  type: 'phase',
  phase,
  text: words,
});

/** A sentence as plain text. */
export function becauseText(parts: readonly BecausePart[]): string {
  return parts.map((part) => part.text).join('');
}

const NUMBER_WORDS = [
  '',
  '',
  'twice',
  'three times',
  'four times',
  'five times',
  'six times',
  'seven times',
  'eight times',
  'nine times',
];

/** "three times the budget", "just over the budget", as a colleague would put a ratio. */
export function timesBudget(feltMs: number, budgetMs: number): string {
  const ratio = feltMs / budgetMs;
  const budget = `the budget of ${Math.round(budgetMs)} ms`;
  if (ratio < 1.2) return `just over ${budget}`;
  if (ratio < 1.75) return `over ${budget}`;
  const whole = Math.round(ratio);
  const nearly = whole - ratio > 0.15 ? 'nearly ' : ratio - whole > 0.15 ? 'more than ' : '';
  return `${nearly}${NUMBER_WORDS[whole] ?? `${whole} times`} ${budget}`;
}
