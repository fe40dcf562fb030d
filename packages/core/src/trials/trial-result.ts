import { LEVEL } from '../statistics/level';
import { holm } from '../statistics/holm';
import { median } from '../statistics/median';
import { medianShiftOf, signChance, smallestSignChance } from '../statistics/sign-test';
import type { TrialPlace } from './trial';
import type { TrialChecked, TrialProblem } from './trial-messages';

/** Smaller differences than this are not told: a share of the time. */
export const MIN_TOLD = 0.02;
/** An interval this wide, or as wide as this share of the difference, needs no more starts. */
const NARROW = 0.05;
const NARROW_SHARE = 0.5;

/** One start of a trial. */
export interface TrialStart {
  /** Milliseconds a run, by rounds and in them by alternatives; undefined for those that were left out. */
  readonly rounds: readonly (readonly (number | undefined)[])[];
  /** By how much the heap grew in a run, where the engine tells. */
  readonly bytes: readonly (number | undefined)[];
}

/** What came of one alternative. */
export interface AlternativeResult {
  readonly name: string;
  /** Why it was not timed; undefined where it was. */
  readonly problem: TrialProblem | undefined;
  /** What it gave; undefined where it gave nothing. */
  readonly checked: TrialChecked | undefined;
  /** Of each start. Milliseconds a run. */
  readonly runMs: readonly number[];
  readonly medianMs: number | undefined;
  /** Bytes a run by which the heap grew, the median of the starts; undefined where the engine does not tell. */
  readonly bytes: number | undefined;
}

export const PAIR_VERDICTS = ['faster', 'slower', 'no-clear-change', 'too-few-to-say'] as const;
export type PairVerdict = (typeof PAIR_VERDICTS)[number];

/** Two alternatives against each other: how much more time the second takes, as a share of the first's. */
export interface TrialPair {
  readonly first: number;
  readonly second: number;
  /** -0.3 is 30 % less. The median of the starts, with the 95 % interval. */
  readonly more: { readonly share: number; readonly low: number; readonly high: number };
  readonly chance: number;
  /** Of the second. */
  readonly verdict: PairVerdict;
}

export const TRIAL_ENDS = ['decided', 'time', 'stopped', 'nothing-to-compare'] as const;
export type TrialEnd = (typeof TRIAL_ENDS)[number];

/** What came of a trial. */
export interface TrialResult {
  /** Engine and major version. */
  readonly engine: string;
  readonly place: TrialPlace;
  /** Step of the clock there, in milliseconds. */
  readonly clockStepMs: number;
  readonly alternatives: readonly AlternativeResult[];
  readonly pairs: readonly TrialPair[];
  readonly starts: number;
  /** Error rate over all pairs together, of this look. */
  readonly level: number;
  readonly ended: TrialEnd;
}

/** What alternatives gave, of those that gave anything, each with its name. */
export function givenBy(
  alternatives: readonly AlternativeResult[],
): (TrialChecked & { readonly name: string })[] {
  return alternatives.flatMap(({ name, checked }) => (checked === undefined ? [] : [{ name, ...checked }]));
}

/** Whether any two gave something else, as far as that could be compared. */
export function doResultsDiffer(alternatives: readonly AlternativeResult[]): boolean {
  return new Set(givenBy(alternatives).map(({ sameAs }) => sameAs)).size > 1;
}

/** How much more one takes than the other in a start, as a logarithm: the median of the rounds, in which they ran side by side. */
function logRatio({ rounds }: TrialStart, first: number, second: number): number {
  return median(rounds.map((round) => Math.log(round[second]! / round[first]!)));
}

/**
 * Holds alternatives against each other, each pair by the sign test over the starts: what moved all that ran side by side,
 * such as a busy machine, falls out of the pair, and what moved one of them in one start weighs no more than another start.
 * @param timed indexes of the alternatives that were timed in all starts
 * @param level error rate over all pairs together
 */
export function comparePairs(
  starts: readonly TrialStart[],
  timed: readonly number[],
  level: number,
): TrialPair[] {
  if (starts.length === 0) return [];
  const pairs = timed.flatMap((first, at) => timed.slice(at + 1).map((second) => ({ first, second })));
  const compared = pairs.map(({ first, second }) => {
    const logs = starts.map((start) => logRatio(start, first, second));
    const shift = medianShiftOf(logs, LEVEL);
    const more = {
      share: Math.expm1(shift.difference),
      low: Math.expm1(shift.low),
      high: Math.expm1(shift.high),
    };
    return { first, second, more, chance: signChance(logs), pairs: logs.length };
  });
  const holds = holm(
    compared.map(({ chance }) => chance),
    level,
  );
  const hardest = level / Math.max(1, compared.length);
  return compared.map(({ pairs: count, ...pair }, at): TrialPair => {
    const isTold = holds[at]! && Math.abs(pair.more.share) >= MIN_TOLD;
    const none = smallestSignChance(count) > hardest ? 'too-few-to-say' : 'no-clear-change';
    return { ...pair, verdict: isTold ? (pair.more.share < 0 ? 'faster' : 'slower') : none };
  });
}

/** Whether more starts would decide nothing more of a pair: its interval is narrow, and does not speak against the verdict. */
export function isDecided({ more, verdict }: TrialPair): boolean {
  const { share, low, high } = more;
  const isTold = verdict === 'faster' || verdict === 'slower';
  const speaks = (low > 0 || high < 0) && Math.abs(share) >= MIN_TOLD;
  if (verdict === 'too-few-to-say' || (speaks && !isTold)) return false;
  return high - low <= Math.max(NARROW, isTold ? NARROW_SHARE * Math.abs(share) : 0);
}

/** The median of what is known; undefined where nothing is. */
export function medianKnown(values: readonly (number | undefined)[]): number | undefined {
  const known = values.filter((value) => value !== undefined);
  return known.length === 0 ? undefined : median(known);
}
