import { percentile } from '../calls/occurrences';
import { interactionsOf } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import { median, medianDifference, type MedianDifference } from '../statistics/median-difference';
import { findStings } from '../stings/find';
import type { Thresholds } from '../stings/thresholds';

export type Verdict = 'faster' | 'slower' | 'no-clear-change' | 'too-few-to-say' | 'gone' | 'new';

/** The delays of one series in one recording. Milliseconds. */
export interface SeriesSide {
  readonly valuesMs: readonly number[];
  readonly count: number;
  readonly medianMs: number | undefined;
  /** 75th percentile, nearest rank. */
  readonly p75Ms: number | undefined;
  readonly worstMs: number | undefined;
}

/** What was done, or went on, under the same label in both recordings. */
export interface ComparedSeries {
  readonly label: string;
  /** Whether somebody was waiting: then all attempts count, stinging or not. */
  readonly isInteraction: boolean;
  readonly before: SeriesSide;
  readonly after: SeriesSide;
  readonly change: MedianDifference | undefined;
  readonly verdict: Verdict;
}

/** Fewer values on either side say nothing. */
const LEAST_VALUES = 3;
/** Delays are told in steps of this (Event Timing rounds to 8 ms): a smaller change is none. */
const STEP_MS = 8;

function sideOf(values: readonly number[]): SeriesSide {
  const sorted = [...values].sort((a, b) => a - b);
  const some = sorted.length > 0;
  return {
    valuesMs: values,
    count: values.length,
    medianMs: some ? median(sorted) : undefined,
    p75Ms: some ? percentile(sorted, 0.75) : undefined,
    worstMs: sorted.at(-1),
  };
}

interface Delays {
  readonly isInteraction: boolean;
  readonly valuesMs: number[];
}

function delaysOf(recording: Recording, thresholds: Thresholds): Map<string, Delays> {
  const delays = new Map<string, Delays>();
  const add = (label: string, isInteraction: boolean, feltMs: number) => {
    const known = delays.get(label) ?? { isInteraction, valuesMs: [] };
    known.valuesMs.push(feltMs);
    delays.set(label, known);
  };
  for (const { label, feltMs } of interactionsOf(recording)) add(label, true, feltMs);
  for (const { label, feltMs, interaction } of findStings(recording, thresholds)) {
    if (interaction === undefined) add(label, false, feltMs);
  }
  return delays;
}

function verdictOf(
  before: SeriesSide,
  after: SeriesSide,
  isInteraction: boolean,
): [MedianDifference | undefined, Verdict] {
  if (!isInteraction && after.count === 0) return [undefined, 'gone'];
  if (!isInteraction && before.count === 0) return [undefined, 'new'];
  if (before.count < LEAST_VALUES || after.count < LEAST_VALUES) return [undefined, 'too-few-to-say'];
  const change = medianDifference(before.valuesMs, after.valuesMs);
  if (Math.abs(change.difference) < STEP_MS || (change.low <= 0 && change.high >= 0))
    return [change, 'no-clear-change'];
  return [change, change.difference < 0 ? 'faster' : 'slower'];
}

/** Compares the delays of two recordings, label by label, the largest change first. */
export function compareSeries(before: Recording, after: Recording, thresholds: Thresholds): ComparedSeries[] {
  const was = delaysOf(before, thresholds);
  const is = delaysOf(after, thresholds);
  const compared = [...new Set([...was.keys(), ...is.keys()])].map((label) => {
    const isInteraction = (was.get(label) ?? is.get(label)!).isInteraction;
    const sides = [sideOf(was.get(label)?.valuesMs ?? []), sideOf(is.get(label)?.valuesMs ?? [])] as const;
    const [change, verdict] = verdictOf(...sides, isInteraction);
    return { label, isInteraction, before: sides[0], after: sides[1], change, verdict };
  });
  const size = ({ before: b, after: a }: ComparedSeries) => Math.abs((a.medianMs ?? 0) - (b.medianMs ?? 0));
  return compared.sort(
    (a, b) =>
      Number(b.isInteraction) - Number(a.isInteraction) || size(b) - size(a) || (a.label < b.label ? -1 : 1),
  );
}
