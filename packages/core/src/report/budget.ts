import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { interactionsOf } from '../inputs/interactions';
import { elementRedraws } from '../overview/element-redraws';
import { appendTo } from '../recording/group';
import { median } from '../statistics/median';
import type { Delay } from '../compare/series-runs';
import type { Budget } from './budget-schema';
import { outcomesOf } from '../outcomes/outcome';
import { displayName } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { idleWork } from '../detectors/idle-work';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { quietRanges, quietSums, type QuietRange, type QuietSums } from '../overview/quiet';
import { secondsText } from '../words/figures';

/** One thing that was held against its budget. */
export interface BudgetResult {
  readonly what: string;
  readonly found: number;
  readonly allowed: number;
  readonly unit: string;
  /** Whether it is only known that it was below `found`. */
  readonly isBound: boolean;
  /** Undefined where it cannot be told: it was below `found`, and that is more than allowed. */
  readonly kept: boolean | undefined;
}

/** By what of its values a figure is held against a budget, where there are several. */
export type HeldBy = 'worst' | 'median';

/** What a recording has of one thing that a budget allows so much of. */
interface Figure {
  readonly what: string;
  readonly allowed: number;
  readonly unit: string;
  /** Each attempt where it was done several times, else one. */
  readonly values: readonly Delay[];
}

type LabelledDelay = readonly [label: string, delay: Delay];

/** What delays come to: of two that are equal the measured one counts, as the other was below it. */
function heldValue(values: readonly Delay[], by: HeldBy): Delay {
  const sorted = [...values].sort((a, b) => a.ms - b.ms || Number(b.isBound) - Number(a.isBound));
  if (by === 'worst') return sorted.at(-1)!;
  return { ms: median(sorted.map(({ ms }) => ms)), isBound: sorted[sorted.length >> 1]!.isBound };
}

function byLabel(all: readonly LabelledDelay[]): ReadonlyMap<string, readonly Delay[]> {
  const delays = new Map<string, Delay[]>();
  for (const [label, delay] of all) appendTo(delays, label, delay);
  return delays;
}

/** The delays of each label against what is allowed for it, or for all. */
function delayFigures(what: string, all: readonly LabelledDelay[], limits: Budget['responses']): Figure[] {
  const own = new Map(limits.map(({ label, ms }) => [label, ms]));
  return [...byLabel(all)].flatMap(([label, values]) => {
    const allowed = own.get(label) ?? own.get('*');
    return allowed === undefined ? [] : [{ what: `${what}: ${label}`, allowed, unit: 'ms', values }];
  });
}

/** What the responses to inputs come to. */
export const responsesIn: DelaysIn = (recording) =>
  interactionsOf(recording).map(
    ({ label, feltMs, measured }) => [label, { ms: feltMs, isBound: !measured }] as const,
  );

type DelaysIn = (recording: Recording) => readonly LabelledDelay[];

/** What delays of each label come to in some recordings. */
export function heldDelays(
  recordings: readonly Recording[],
  delaysIn: DelaysIn,
  by: HeldBy,
): ReadonlyMap<string, Delay> {
  const delays = byLabel(recordings.flatMap(delaysIn));
  return new Map([...delays].map(([label, values]) => [label, heldValue(values, by)]));
}

/** The outcomes of inputs; where nothing came after the answer, that. */
export const outcomesIn: DelaysIn = (recording) => {
  const last = new Map(
    outcomesOf(recording).map(({ interaction, lengthMs }) => [interaction, { ms: lengthMs, isBound: false }]),
  );
  return interactionsOf(recording).map((interaction) => {
    const { label, feltMs, measured } = interaction;
    return [label, last.get(interaction) ?? { ms: feltMs, isBound: !measured }];
  });
};

/** How a quiet range is called in what was held against a budget. */
function quietWords({ name, startMs, endMs }: QuietRange): string {
  return name === undefined ? `from ${secondsText(startMs)} to ${secondsText(endMs)}` : `“${name}”`;
}

/** Time in long tasks, all together. Milliseconds. */
export function longTasksMs(recording: Recording): number {
  const lengths = [...recording.events.task.rows()].map(({ durationMs }) => durationMs);
  return lengths.filter((ms) => ms > DEFAULT_THRESHOLDS.longTaskMs).reduce((sum, ms) => sum + ms, 0);
}

/** How often layout was forced. */
export function forcedLayoutsIn(recording: Recording): number {
  return [...recording.events.forced.rows()].reduce((sum, { count }) => sum + count, 0);
}

/** Share of the time that went to idle work, 0 to 1. */
export function idleShareOf(recording: Recording): number {
  const idle = idleWork.find(recording, { ...DEFAULT_THRESHOLDS, idleMsASecond: 0 });
  return idle.reduce((sum, { feltMs }) => sum + feltMs / 1000, 0);
}

/** How often a second each element was written to, by its label, those most often first. */
export function redrawRatesIn(recording: Recording): [element: string | undefined, rate: number][] {
  const seconds = Math.max(0.001, (recording.range.endMs - recording.range.startMs) / 1000);
  return elementRedraws(recording, MAIN_THREAD, recording.range).map(({ target, count }) => [
    target,
    count / seconds,
  ]);
}

/** What went on in each quiet range. */
export function quietIn(recording: Recording): QuietSums[] {
  return quietRanges(recording).map((range) => quietSums(recording, range, DEFAULT_THRESHOLDS));
}

function figuresOf(recording: Recording, budget: Budget): Figure[] {
  const figures = [
    ...delayFigures('Response to', responsesIn(recording), budget.responses),
    ...delayFigures('Outcome of', outcomesIn(recording), budget.outcomes ?? []),
  ];
  const add = (what: string, ms: number, allowed: number | undefined, unit: string) => {
    if (allowed !== undefined) figures.push({ what, allowed, unit, values: [{ ms, isBound: false }] });
  };
  add('Time in long tasks', longTasksMs(recording), budget.longTaskMs, 'ms');
  add('Forced layouts', forcedLayoutsIn(recording), budget.forcedLayouts, 'times');
  add('Share of idle work', idleShareOf(recording), budget.idleShare, 'of the time');
  if (budget.redrawsASecond !== undefined) addRedraws(recording, budget.redrawsASecond, add);
  if (budget.quiet !== undefined) {
    const { redraws, scriptMs, requests } = budget.quiet;
    for (const found of quietIn(recording)) {
      const where = `in the quiet range ${quietWords(found)}`;
      add(`Redraws ${where}`, found.redraws, redraws, 'redraws');
      add(`Script ${where}`, found.scriptMs, scriptMs, 'ms');
      add(`Requests ${where}`, found.requests, requests, 'requests');
    }
  }
  if (budget.callsASecond.length > 0) {
    const table = functionTable(recording, WIDE_LENS);
    for (const { name, calls } of budget.callsASecond) {
      const found = table
        .filter(({ functionId }) => displayName(recording.functions.get(functionId)) === name)
        .reduce((sum, { callsPerSecond }) => sum + callsPerSecond, 0);
      add(`Calls of ${name}`, found, calls, 'a second');
    }
  }
  return figures;
}

function addRedraws(
  recording: Recording,
  limits: NonNullable<Budget['redrawsASecond']>,
  add: (what: string, found: number, allowed: number, unit: string) => void,
): void {
  const own = new Map(limits.map(({ element, redraws }) => [element, redraws]));
  for (const [element, rate] of redrawRatesIn(recording)) {
    const allowed = (element === undefined ? undefined : own.get(element)) ?? own.get('*');
    if (allowed !== undefined) add(`Redraws of ${element ?? 'elements not told'}`, rate, allowed, 'a second');
  }
}

/**
 * Holds recordings against a budget. Where there are several, or something was done several times, the worst of all
 * values counts, or their median.
 */
export function checkBudget(
  recordings: Recording | readonly Recording[],
  budget: Budget,
  by: HeldBy = 'worst',
): BudgetResult[] {
  const all = 'header' in recordings ? [recordings] : recordings;
  const found = new Map<string, Figure & { readonly values: Delay[] }>();
  for (const figure of all.flatMap((one) => figuresOf(one, budget))) {
    const known = found.get(figure.what);
    if (known === undefined) found.set(figure.what, { ...figure, values: [...figure.values] });
    else known.values.push(...figure.values);
  }
  const results = [...found.values()].map(({ what, allowed, unit, values }): BudgetResult => {
    const { ms, isBound } = heldValue(values, by);
    const kept = ms <= allowed ? true : isBound ? undefined : false;
    return { what, found: ms, allowed, unit, isBound, kept };
  });
  const hasQuiet = budget.quiet === undefined || all.some((one) => quietRanges(one).length > 0);
  if (hasQuiet) return results;
  const none = { found: 0, allowed: 0, unit: 'ranges', isBound: false, kept: undefined };
  return [...results, { what: 'Quiet ranges: none is marked', ...none }];
}
