import { LEVEL } from '../statistics/level';
import { holm } from '../statistics/holm';
import { median } from '../statistics/median';
import { pairedShiftOf, signedRankChance, smallestPairedChance } from '../statistics/signed-rank';
import type { TrialPlace } from './trial';
import type { TrialChecked, TrialProblem } from './trial-messages';

/** Smaller differences than this are not told: a share of the time. */
export const MIN_TOLD = 0.02;
/** An interval this wide, or as wide as this share of the difference, needs no more starts. */
const NARROW = 0.05;
const NARROW_SHARE = 0.5;

/** One start of a trial: milliseconds a run of each alternative, the median of its blocks; undefined for those that were left out. */
export interface TrialStart {
  readonly runMs: readonly (number | undefined)[];
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

export type PairVerdict = 'faster' | 'slower' | 'no-clear-change' | 'too-few-to-say';

/** Two alternatives against each other: how much more time the second takes, as a share of the first's. */
export interface TrialPair {
  readonly first: number;
  readonly second: number;
  /** -0.3 is 30 % less. By Hodges and Lehmann, with the 95 % interval, over the starts. */
  readonly more: { readonly share: number; readonly low: number; readonly high: number };
  readonly chance: number;
  /** Of the second. */
  readonly verdict: PairVerdict;
}

export type TrialEnd = 'decided' | 'time' | 'stopped' | 'nothing-to-compare';

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

/** Whether what all alternatives gave is the same; undefined where it cannot be said. */
export function doAgree(alternatives: readonly AlternativeResult[]): boolean | undefined {
  const given = alternatives.flatMap(({ checked }) => (checked === undefined ? [] : [checked]));
  if (given.length < 2 || given.some(({ isComparable }) => !isComparable)) return undefined;
  return given.every(({ sameAs, isSteady }) => sameAs === given[0]!.sameAs && isSteady);
}

/**
 * Holds alternatives against each other, each pair by the test of Wilcoxon over the starts: what moved all that ran in one
 * start, such as a busy machine, falls out of the pair.
 * @param level error rate over all pairs together
 */
export function comparePairs(runMs: readonly (readonly number[])[], level: number): TrialPair[] {
  const timed = runMs.flatMap((values, at) => (values.length > 0 ? [at] : []));
  const pairs = timed.flatMap((first, at) => timed.slice(at + 1).map((second) => ({ first, second })));
  const compared = pairs.map(({ first, second }) => {
    const logs = runMs[first]!.map((value, start) => Math.log(runMs[second]![start]! / value));
    const shift = pairedShiftOf(logs, LEVEL);
    const more = {
      share: Math.expm1(shift.difference),
      low: Math.expm1(shift.low),
      high: Math.expm1(shift.high),
    };
    return { first, second, more, chance: signedRankChance(logs), pairs: logs.length };
  });
  const holds = holm(
    compared.map(({ chance }) => chance),
    level,
  );
  const hardest = level / Math.max(1, compared.length);
  return compared.map(({ pairs: count, ...pair }, at): TrialPair => {
    const isTold = holds[at]! && Math.abs(pair.more.share) >= MIN_TOLD;
    const none = smallestPairedChance(count) > hardest ? 'too-few-to-say' : 'no-clear-change';
    return { ...pair, verdict: isTold ? (pair.more.share < 0 ? 'faster' : 'slower') : none };
  });
}

/** Whether nothing more is to be learned of a pair: its interval is narrow. */
export function isNarrow({ more, verdict }: TrialPair): boolean {
  if (verdict === 'too-few-to-say') return false;
  const isBeyond = verdict !== 'no-clear-change';
  return more.high - more.low <= Math.max(NARROW, isBeyond ? NARROW_SHARE * Math.abs(more.share) : 0);
}

/** The median of what is known; undefined where nothing is. */
export function medianKnown(values: readonly (number | undefined)[]): number | undefined {
  const known = values.filter((value) => value !== undefined);
  return known.length === 0 ? undefined : median(known);
}
