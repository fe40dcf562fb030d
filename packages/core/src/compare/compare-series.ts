import { percentile } from '../calls/occurrences';
import { delayStepMs } from '../inputs/delay-step';
import type { Recording } from '../recording/recording';
import { holm } from '../statistics/holm';
import { loadsOnOneSideChance, onOneSideChance } from '../statistics/one-sided';
import { LEVEL } from '../statistics/level';
import { median } from '../statistics/median';
import { rankTest, smallestChance } from '../statistics/rank-test';
import { shiftOf, type Shift } from '../statistics/shift';
import type { Thresholds } from '../format/thresholds';
import { backgroundStings, outcomeLabels, runsOf, type Delay, type Runs } from './series-runs';

export type Verdict = 'faster' | 'slower' | 'no-clear-change' | 'too-few-to-say' | 'gone' | 'new';

/** The delays of one series in one recording. Milliseconds. */
export interface SeriesSide {
  readonly delays: readonly Delay[];
  readonly count: number;
  readonly medianMs: number | undefined;
  /** Whether the median is only a bound that it lies below. */
  readonly medianIsBound: boolean;
  /** 75th percentile, nearest rank. */
  readonly p75Ms: number | undefined;
  readonly worstMs: number | undefined;
}

/** How far both sides lie apart, with the 95 % interval. */
export interface SeriesChange extends Shift {
  /** Whether values that are only bounds make the difference a bound too: it is at least as large. */
  readonly isBound: boolean;
}

/** What was done, or went on, under the same label in both recordings. */
export interface ComparedSeries {
  readonly label: string;
  /** Whether somebody was waiting. */
  readonly isInteraction: boolean;
  readonly before: SeriesSide;
  readonly after: SeriesSide;
  readonly change: SeriesChange | undefined;
  /**
   * Chance of a difference as large, or of one side without any, where nothing changed; undefined where there are too few
   * values to test.
   */
  readonly chance: number | undefined;
  /** Whether it is one of those that share the error rate. */
  readonly isTested: boolean;
  /** How many more values on either side would make a verdict possible; 0 where there are enough. */
  readonly missing: { readonly before: number; readonly after: number };
  /** Differences below this are none that the sources could tell. Milliseconds. */
  readonly stepMs: number;
  readonly verdict: Verdict;
}

/** What goes on all the while is missed in a recording at least this much as long. */
const MIN_LENGTH = 0.5;

/** What delays come to, in whichever order they are given. */
export function sideOf(delays: readonly Delay[]): SeriesSide {
  const sorted = [...delays].sort((a, b) => rankValue(a) - rankValue(b));
  const values = sorted.map(({ ms }) => ms);
  const some = sorted.length > 0;
  const boundAt = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  return {
    delays,
    count: delays.length,
    medianMs: some ? median(values) : undefined,
    medianIsBound: boundAt(0.5)?.isBound ?? false,
    p75Ms: some ? percentile(values, 0.75) : undefined,
    worstMs: values.at(-1),
  };
}

/** A value by its rank: what is only known to be below a bound comes before all that was measured, as one. */
export function rankValue({ ms, isBound }: Delay): number {
  return isBound ? -1 : ms;
}

/** The number of values on both sides, if any is added, from which on the test could give a verdict. */
export function missingFor(before: number, after: number, level: number): { before: number; after: number } {
  for (let least = 1; ; least++) {
    const [n, m] = [Math.max(before, least), Math.max(after, least)];
    if (smallestChance(n, m) <= level) return { before: n - before, after: m - after };
  }
}

/** The shift, with values that are only bounds at either end of what they may be. */
function changeOf(before: readonly Delay[], after: readonly Delay[]): SeriesChange {
  const at = (share: number) =>
    shiftOf(
      before.map(({ ms, isBound }) => (isBound ? ms * share : ms)),
      after.map(({ ms, isBound }) => (isBound ? ms * share : ms)),
      LEVEL,
    );
  const highest = at(1);
  if (!before.some(({ isBound }) => isBound) && !after.some(({ isBound }) => isBound)) {
    return { ...highest, isBound: false };
  }
  const lowest = at(0);
  const nearer = Math.abs(lowest.difference) < Math.abs(highest.difference) ? lowest : highest;
  return {
    difference: nearer.difference,
    low: Math.min(lowest.low, highest.low),
    high: Math.max(lowest.high, highest.high),
    isBound: lowest.difference !== highest.difference,
  };
}

interface Pair {
  readonly label: string;
  readonly isInteraction: boolean;
  readonly before: Runs | undefined;
  readonly after: Runs | undefined;
  /** Chance by the test of delays, or of being on one side only; undefined where there are too few values. */
  readonly chance: number | undefined;
  /** Whether it shares the error rate: that it could have gone on on one side only is a test as well. */
  readonly isTested: boolean;
}

/** Whether what went on all the while in one recording, in one figure, is missing in another that is long enough. */
function isRateMissed(runs: Runs, { recordings, loads }: ComparedRuns, side: 'before' | 'after'): boolean {
  const other = recordings[side === 'before' ? 'after' : 'before'].range.endMs;
  const isLong = other / Math.max(1, recordings[side].range.endMs) >= MIN_LENGTH;
  return loads === undefined && runs.isRate === true && isLong;
}

/** How likely it is that so many runs of what goes on in the background, on both sides together, are all on one side. */
function oneSidedChance(times: number, { recordings, loads }: ComparedRuns): number {
  if (loads !== undefined) return loadsOnOneSideChance(times, loads.before, loads.after);
  const [before, after] = [recordings.before.range.endMs, recordings.after.range.endMs];
  return onOneSideChance(times, before / Math.max(1, before + after));
}

function verdictOf(
  { before, after, isInteraction }: Pair,
  change: SeriesChange | undefined,
  stepMs: number,
  holds: boolean,
  compared: ComparedRuns,
): Verdict {
  if (!isInteraction && before !== undefined && after === undefined)
    return holds || isRateMissed(before, compared, 'before') ? 'gone' : 'too-few-to-say';
  if (!isInteraction && after !== undefined && before === undefined)
    return holds || isRateMissed(after, compared, 'after') ? 'new' : 'too-few-to-say';
  if (change === undefined) return 'too-few-to-say';
  if (!holds || !isTold(change, stepMs)) return 'no-clear-change';
  return change.difference < 0 ? 'faster' : 'slower';
}

/** Whether both sides lie as far apart as so few values can, so that nothing but more of them could decide. */
function isLeast(chance: number | undefined, smallest: number): boolean {
  return chance !== undefined && chance <= smallest * (1 + 1e-9);
}

/** Whether a difference is one that the sources could tell. */
function isTold(change: SeriesChange | undefined, stepMs: number): boolean {
  return change !== undefined && Math.abs(change.difference) >= stepMs;
}

/** By how much the median changed; that of a side in which it was not done counts as nothing. Milliseconds. */
export function medianChangeMs({ before, after }: Pick<ComparedSeries, 'before' | 'after'>): number {
  return (after.medianMs ?? 0) - (before.medianMs ?? 0);
}

/** How many series had enough values to be tested. */
export function testedOf(series: readonly ComparedSeries[]): number {
  return series.filter(({ isTested }) => isTested).length;
}

/** Two sides of a comparison: the runs of each, by label, and recordings that tell how they were made. */
export interface ComparedRuns {
  readonly was: ReadonlyMap<string, Runs>;
  readonly is: ReadonlyMap<string, Runs>;
  readonly recordings: { readonly before: Recording; readonly after: Recording };
  /** How many loads there are of each, where each value is that of one. */
  readonly loads?: { readonly before: number; readonly after: number };
}

/** Labels of what went on or came late in any of some recordings, and stung. */
export function stungLabels(recordings: readonly Recording[], thresholds: Thresholds): ReadonlySet<string> {
  return new Set(
    recordings.flatMap((recording) => [
      ...backgroundStings(recording, thresholds).map(({ label }) => label),
      ...outcomeLabels(recording),
    ]),
  );
}

/**
 * Compares the delays of two recordings, label by label, the largest change first. A verdict is given where the rank
 * test holds at an error rate of 5 % over all series that could be tested, and where the difference is one that the
 * sources can tell.
 */
export function compareSeries(before: Recording, after: Recording, thresholds: Thresholds): ComparedSeries[] {
  const stung = stungLabels([before, after], thresholds);
  const [was, is] = [runsOf(before, thresholds, stung), runsOf(after, thresholds, stung)];
  return compareRuns({ was, is, recordings: { before, after } });
}

/** What the sources of some recordings can tell apart: differences below it are none. Milliseconds. */
export function toldStepMs(recordings: readonly Recording[], isInteraction: boolean): number {
  const clockMs = recordings.map(({ header }) => header.clockStepMs);
  return Math.max(...clockMs, ...(isInteraction ? recordings.map(delayStepMs) : []));
}

/** The same of runs that were gathered otherwise. @param level error rate over all series together */
export function compareRuns(given: ComparedRuns, level = LEVEL): ComparedSeries[] {
  const { was, is } = given;
  const { before, after } = given.recordings;
  const pairs = [...new Set([...was.keys(), ...is.keys()])].map((label): Pair => {
    const [b, a] = [was.get(label), is.get(label)];
    const { isInteraction, isRate } = (b ?? a)!;
    const both = b !== undefined && a !== undefined;
    const isTestable = both && smallestChance(b.delays.length, a.delays.length) <= level;
    const isCounted = !isInteraction && (isRate !== true || given.loads !== undefined);
    const oneSided = isCounted ? oneSidedChance((b?.delays.length ?? 0) + (a?.delays.length ?? 0), given) : 1;
    const isPresenceTest = oneSided <= level;
    const absence = isPresenceTest && !both ? oneSided : undefined;
    const chance = isTestable ? rankTest(b.delays.map(rankValue), a.delays.map(rankValue)).p : absence;
    return { label, isInteraction, before: b, after: a, chance, isTested: isTestable || isPresenceTest };
  });
  const tested = pairs.filter(({ isTested }) => isTested);
  const holds = holm(
    tested.map(({ chance }) => chance ?? 1),
    level,
  );
  const held = new Set(tested.filter((_, at) => holds[at]));
  /** What a chance has to come below where no other series holds. */
  const hardest = level / Math.max(1, tested.length);
  const compared = pairs.map((pair): ComparedSeries => {
    const { label, isInteraction, chance } = pair;
    const [b, a] = [pair.before?.delays ?? [], pair.after?.delays ?? []];
    const stepMs = toldStepMs([before, after], isInteraction);
    const isBoth = b.length > 0 && a.length > 0;
    const change = chance === undefined || !isBoth ? undefined : changeOf(b, a);
    const isAtLimit =
      !held.has(pair) && isLeast(chance, smallestChance(b.length, a.length)) && isTold(change, stepMs);
    return {
      label,
      isInteraction,
      before: sideOf(b),
      after: sideOf(a),
      change,
      chance,
      isTested: pair.isTested,
      missing: missingFor(b.length, a.length, isAtLimit ? hardest : level),
      stepMs,
      verdict: isAtLimit ? 'too-few-to-say' : verdictOf(pair, change, stepMs, held.has(pair), given),
    };
  });
  const size = (series: ComparedSeries) => Math.abs(medianChangeMs(series));
  return compared.sort(
    (a, b) =>
      Number(b.isInteraction) - Number(a.isInteraction) || size(b) - size(a) || (a.label < b.label ? -1 : 1),
  );
}
