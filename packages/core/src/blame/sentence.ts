import { displayName, displayPlace, shortPlace } from '../recording/functions';
import type { Recording } from '../recording/recording';
import type { PhaseName } from './anatomy';

/** A piece of a sentence: plain words, a figure, or a name that leads somewhere. */
export type BecausePart =
  | { readonly type: 'text'; readonly text: string }
  | { readonly type: 'figure'; readonly text: string; readonly over?: boolean }
  | { readonly type: 'function'; readonly text: string; readonly functionId: number }
  | { readonly type: 'phase'; readonly text: string; readonly phase: PhaseName };

export const text = (words: string): BecausePart => ({ type: 'text', text: words });

export const count = (value: number): string => Math.round(value).toLocaleString('en');

/** Milliseconds, to the digit that means something. */
export const ms = (value: number, over = false): BecausePart => ({
  type: 'figure',
  text: `${value < 10 ? Number(value.toFixed(1)) : count(value)} ms`,
  over,
});

/** "once", "3 times", "1,200 times". */
export const times = (value: number): string => (Math.round(value) === 1 ? 'once' : `${count(value)} times`);

/** All of it is said only of all of it. */
export const percent = (share: number): string =>
  `${share < 1 ? Math.min(99, Math.round(share * 100)) : 100} %`;

/** A function by its name; one without by its place. */
export function functionPart(recording: Recording, functionId: number): BecausePart {
  const recorded = recording.functions.get(functionId);
  const name = displayName(recorded);
  const place = displayPlace(recorded, recording.sources.get(recorded?.source ?? -1));
  const isPlaced = name === '(anonymous)' && place !== '';
  return { type: 'function', text: isPlaced ? `(anonymous) in ${shortPlace(place)}` : name, functionId };
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
