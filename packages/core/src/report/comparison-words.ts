import { decimalText } from '../words/figures';
import { modeWordsOf } from '../format/header';
import type { Comparison } from '../compare/compare';
import type { FunctionChange } from '../compare/compare-functions';
import type { FunctionSide, FunctionUnit } from '../compare/function-sides';
import type { ComparedSeries, SeriesSide, Verdict } from '../compare/compare-series';
import { LEVEL } from '../statistics/level';
import type { Recording } from '../recording/recording';

const VERDICTS: Record<Verdict, string> = {
  faster: 'faster',
  slower: 'slower',
  'no-clear-change': 'no clear change',
  'too-few-to-say': 'too few to say',
  gone: 'gone',
  new: 'new',
};

export function verdictWords(verdict: Verdict): string {
  return VERDICTS[verdict];
}

/** Milliseconds, or the bound they lie below. */
export function boundWords(ms: number, isBound: boolean): string {
  return isBound ? `below ${Math.round(ms)} ms` : `${Math.round(ms)} ms`;
}

/** A side of a series in short: "612 ms, worst 640, × 5". */
export function sideWords({ count, medianMs, medianIsBound, worstMs }: SeriesSide): string {
  if (medianMs === undefined) return '–';
  const middle = boundWords(medianMs, medianIsBound);
  return count === 1 ? middle : `${middle}, worst ${Math.round(worstMs!)}, × ${count}`;
}

/** By how much it changed, with its interval; empty where that cannot be said. */
export function changeWords({ change }: Pick<ComparedSeries, 'change'>): string {
  if (change === undefined) return '';
  const [difference, low, high] = [change.difference, change.low, change.high].map(Math.round) as [
    number,
    number,
    number,
  ];
  const least = change.isBound ? 'at least ' : '';
  return `${least}${signed(difference)} ms, 95 % between ${signed(low)} and ${signed(high)}`;
}

/** "in 3 of 1,000 cases", of a chance. */
function chanceWords(chance: number): string {
  if (chance >= 0.095) return `in ${Math.round(chance * 100)} of 100 cases`;
  return chance < 0.0005 ? 'in less than 1 of 1,000 cases' : `in ${Math.round(chance * 1000)} of 1,000 cases`;
}

/** How the sides of a comparison are called in words, and the error rate over all its series together. */
export interface ComparedHow {
  readonly before: string;
  readonly after: string;
  readonly level: number;
}

const PAIR: ComparedHow = { before: 'before', after: 'after', level: LEVEL };

/** An error rate in words: "5 %". */
export function levelWords(level: number): string {
  return `${Math.round(level * 1000) / 10} %`;
}

/** "1 more before and 2 more after". */
function missingWords({ before, after }: ComparedSeries['missing'], how: ComparedHow): string {
  const parts = [
    before > 0 ? `${before} more ${how.before}` : '',
    after > 0 ? `${after} more ${how.after}` : '',
  ];
  return parts.filter((part) => part !== '').join(' and ');
}

/** How firm a verdict is, in one sentence. @param tested how many series were tested together */
export function firmnessWords(series: ComparedSeries, tested: number, how = PAIR): string {
  const { verdict, chance, missing, stepMs, change } = series;
  const together =
    tested > 1 ? `, at an error rate of ${levelWords(how.level)} over all ${tested} series tested` : '';
  const untested = missingWords(missing, how);
  switch (verdict) {
    case 'faster':
    case 'slower':
      return `With no change, a difference as large would come ${chanceWords(chance!)}${together}.`;
    case 'no-clear-change':
      return change !== undefined && Math.abs(change.difference) < stepMs
        ? `The difference is less than the ${stepMs} ms that the browser tells delays to.`
        : `With no change, a difference as large would come ${chanceWords(chance!)}${together}.`;
    case 'too-few-to-say':
      return untested === ''
        ? 'It was seen too rarely for its absence to say anything.'
        : `So few could differ as much by chance alone: ${untested} would be enough to tell.`;
    case 'gone':
    case 'new':
      return chance === undefined
        ? 'It would have been seen on the other side had it gone on there.'
        : `Had it gone on as often on both sides, it would be seen on one alone ${chanceWords(chance)}${together}.`;
  }
}

function signed(ms: number): string {
  return ms > 0 ? `+${ms}` : `${ms}`.replace('-', '−');
}

/** How a recording was made: "Blink 156, computer, everyday, 3.9 × slower (asked: 4 ×)". */
export function madeWords({ header }: Recording): string {
  const { slowed, speed } = header;
  const slow =
    slowed === undefined || speed === undefined
      ? ''
      : `, measured ${decimalText(speed, 1)} × slower (asked: ${slowed} ×)`;
  return `${header.target.engine}, ${header.target.device}, ${modeWordsOf(header)}${slow}`;
}

/** What all of it comes to, in one sentence. */
export function outcomeWords(series: readonly ComparedSeries[]): string {
  const words: Partial<Record<Verdict, string>> = { 'too-few-to-say': 'done too few times to say' };
  const counted = (verdict: Verdict) => series.filter((one) => one.verdict === verdict).length;
  const parts = (['slower', 'faster', 'gone', 'new', 'no-clear-change', 'too-few-to-say'] as const)
    .map((verdict) => [counted(verdict), words[verdict] ?? verdictWords(verdict)] as const)
    .filter(([count]) => count > 0)
    .map(([count, words]) => `${count} ${words}`);
  return parts.length === 0 ? 'Nothing was done in both that could be compared.' : `${parts.join(', ')}.`;
}

export const UNIT_WORDS: Readonly<Record<FunctionUnit, string>> = {
  attempt: 'attempt',
  second: 'second',
};

export const CHANGE_WORDS: Readonly<Record<FunctionChange, string>> = {
  gone: 'gone',
  new: 'new',
  cheaper: 'takes less',
  dearer: 'takes more',
  same: 'the same',
  unsure: 'not sure',
};

/** Own time an attempt or a second, with how far chance may move it where it was sampled. */
export function perUnitWords(side: FunctionSide | undefined): string {
  if (side === undefined) return '–';
  const { perUnitMs, errorMs } = side;
  const error = errorMs >= 0.05 ? ` ± ${decimalText(errorMs, 1)}` : '';
  return `${decimalText(perUnitMs, 1)}${error} ms`;
}

/** Whether a function is said to have changed. */
export function isChange(change: FunctionChange): boolean {
  return change !== 'same' && change !== 'unsure';
}

/** How many series could be tested, and how. */
export function testedWords({ tested, series }: Pick<Comparison, 'tested' | 'series'>): string {
  return `${tested} of ${series.length} series had enough runs to be tested, by the rank test of Mann and Whitney at an error rate of 5 % over all together.`;
}
