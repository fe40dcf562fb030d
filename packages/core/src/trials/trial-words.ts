import { bytesText, countText, countedText, decimalText, msText, percentText } from '../words/figures';
import type { Trial } from './trial';
import type { TrialLine, TrialPart } from './trial-module';
import { trialLineOf } from './trial-module';
import type { TrialProblem } from './trial-messages';
import { MIN_TOLD, givenBy, type AlternativeResult, type TrialPair, type TrialResult } from './trial-result';
import { RUN_LIMIT_MS } from './trial-run';

/** A part of a trial as people call it. */
export function partWords({ alternatives }: Trial, part: TrialPart): string {
  return part === 'setUp' ? 'Set-up' : `“${alternatives[part]!.name}”`;
}

/** "“Letter by letter”, line 3". */
export function trialLineWords(trial: Trial, { part, line }: TrialLine): string {
  return `${partWords(trial, part)}, line ${line}`;
}

/** What went wrong in an alternative, with its place where that is known. */
export function problemWords(trial: Trial, at: number, { kind, message, line }: TrialProblem): string {
  const place = line === undefined ? undefined : trialLineOf(trial, at, line);
  const where = place === undefined ? partWords(trial, at) : trialLineWords(trial, place);
  return kind === 'endless'
    ? `${where} did not end within ${RUN_LIMIT_MS / 1000} s, and was stopped.`
    : `${where}: ${message}`;
}

/** The time of one run: "0.84 µs", "3.2 ms". */
export function runText(ms: number): string {
  if (ms >= 1) return msText(ms);
  const us = ms * 1000;
  if (us >= 1) return `${decimalText(us, us < 10 ? 2 : us < 100 ? 1 : 0)} µs`;
  return `${decimalText(us * 1000, us < 0.01 ? 2 : us < 0.1 ? 1 : 0)} ns`;
}

const percent = (share: number) => {
  const value = Math.abs(share * 100);
  return decimalText(value, value < 10 ? 1 : 0);
};

/** Less of the time than this is better said as a share of it. */
const SMALL_SHARE = -0.9;

/** "29 % less", "2.4 ×", "4 % of it". */
function moreText(share: number): string {
  if (share >= 1) return `${decimalText(share + 1, share < 9 ? 1 : 0)} ×`;
  if (share < SMALL_SHARE) return `${percentText(share + 1)} of it`;
  return `${percent(share)} % ${share < 0 ? 'less' : 'more'}`;
}

/** "29 % less time than", "2.4 × the time of". */
function timeOf(share: number): string {
  const text = moreText(share);
  if (share >= 1) return `${text} the time of`;
  return share < SMALL_SHARE ? text.replace('of it', 'of the time of') : `${text} time than`;
}

/** What a pair comes to, in one sentence. */
export function pairWords(names: readonly string[], { first, second, more, verdict }: TrialPair): string {
  const [one, other] = [`“${names[first]!}”`, `“${names[second]!}”`];
  const interval = `95 % between ${moreText(more.low)} and ${moreText(more.high)}`;
  switch (verdict) {
    case 'faster':
    case 'slower':
      return `${other} takes ${timeOf(more.share)} ${one} (${interval}).`;
    case 'no-clear-change':
      return `${other} and ${one} show no clear difference (${interval}).`;
    case 'too-few-to-say':
      return `${other} and ${one}: too few starts to say.`;
  }
}

/** A run so short is mostly what calls it. Milliseconds. */
const SHORT_RUN_MS = 20e-6;

/** What is to be known of runs that are very short; empty where there are none. */
export function shortRunWords(alternatives: readonly AlternativeResult[]): string {
  return alternatives.some(({ medianMs }) => medianMs !== undefined && medianMs < SHORT_RUN_MS)
    ? `A run of less than ${runText(SHORT_RUN_MS)} is mostly the loop around it: have each alternative do more.`
    : '';
}

/** Whether what they give is the same, in one sentence. */
export function agreementWords(alternatives: readonly AlternativeResult[]): string {
  const given = givenBy(alternatives);
  const [first] = given;
  if (first === undefined || given.length < 2) return '';
  const unsteady = given.find(({ isSteady }) => !isSteady);
  if (unsteady !== undefined)
    return `“${unsteady.name}” gives another result when it is called again: it may change what it works on.`;
  if (given.some(({ isComparable }) => !isComparable))
    return 'Whether the results agree cannot be said: some are functions, or longer than can be compared.';
  const other = given.find(({ sameAs }) => sameAs !== first.sameAs);
  if (other !== undefined)
    return `The results differ: “${first.name}” gives ${first.text}, “${other.name}” gives ${other.text}.`;
  return first.text === 'undefined'
    ? 'None returns anything, so results could not be compared.'
    : 'All give the same result.';
}

const ENDS: Readonly<Record<TrialResult['ended'], string>> = {
  decided: 'It ended when every difference was known closely enough.',
  time: 'It ended when its time was up.',
  stopped: 'It was stopped.',
  'nothing-to-compare': 'Fewer than two alternatives ran.',
};

/** How it was done, in a few sentences. */
export function trialHowWords({ place, starts, clockStepMs, level, ended }: TrialResult): string {
  return [
    `In a ${place} of its own: ${countedText(starts, 'fresh start')}, in each all alternatives warmed up and timed in turn, in random order.`,
    `The clock there steps by ${runText(clockStepMs)}.`,
    `Pairs are tested by the sign test over the starts, at an error rate of ${percentText(level)} over all together; differences below ${countText(MIN_TOLD * 100)} % are not told.`,
    ENDS[ended],
  ].join(' ');
}

/** The memory of one run: "about 12 kB", "not told". */
export function memoryWords({ bytes }: AlternativeResult): string {
  return bytes === undefined ? 'not told' : `about ${bytesText(Math.max(0, Math.round(bytes)))}`;
}
