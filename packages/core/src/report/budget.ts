import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { interactionsOf } from '../inputs/interactions';
import { outcomesOf } from '../outcomes/outcome';
import { displayName } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { idleWork } from '../detectors/idle-work';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { quietRanges, quietSums, type QuietRange } from '../overview/quiet';
import { secondsText } from '../words/figures';
import { array, number, object, string, type InferType } from 'yup';

const named = { label: string().min(1).max(500).required() };

/** The budget of `nettle-patch check`: every field may be left out. */
export const budgetSchema = object({
  /** Slowest response allowed, in milliseconds: for one label, or for all that have none of their own ("*"). */
  responses: array(object({ ...named, ms: number().min(0).required() }).noUnknown()).default([]),
  /** The same for the last change on the screen that an input set going. */
  outcomes: array(object({ ...named, ms: number().min(0).required() }).noUnknown()),
  /** Time in long tasks, all together. Milliseconds. */
  longTaskMs: number().min(0),
  /** How often layout may be forced. */
  forcedLayouts: number().integer().min(0),
  /** Calls a second allowed, by the name of the function. */
  callsASecond: array(
    object({ name: string().min(1).required(), calls: number().min(0).required() }).noUnknown(),
  ).default([]),
  /** What may go on in each range in which nothing should change. */
  quiet: object({
    redraws: number().integer().min(0),
    scriptMs: number().min(0),
    requests: number().integer().min(0),
  })
    .noUnknown()
    .default(undefined)
    .optional(),
  /** Share of the time that may go to idle work, 0 to 1. */
  idleShare: number().min(0).max(1),
}).noUnknown();

export type Budget = InferType<typeof budgetSchema>;

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

/** The slowest of some delays: of two that are equal the measured one, as the other was below it. */
interface Slowest {
  readonly ms: number;
  readonly isBound: boolean;
}

function slower(a: Slowest | undefined, b: Slowest): Slowest {
  if (a === undefined || a.ms < b.ms) return b;
  return a.ms === b.ms && a.isBound ? b : a;
}

/** Holds the slowest of each label against what is allowed for it, or for all. */
function heldAgainst(
  what: string,
  all: readonly (readonly [label: string, delay: Slowest])[],
  limits: Budget['responses'],
): BudgetResult[] {
  const slowest = new Map<string, Slowest>();
  for (const [label, delay] of all) slowest.set(label, slower(slowest.get(label), delay));
  const own = new Map(limits.map(({ label, ms }) => [label, ms]));
  return [...slowest].flatMap(([label, { ms: found, isBound }]) => {
    const allowed = own.get(label) ?? own.get('*');
    if (allowed === undefined) return [];
    const kept = found <= allowed ? true : isBound ? undefined : false;
    return [{ what: `${what}: ${label}`, found, allowed, unit: 'ms', isBound, kept }];
  });
}

const responsesIn = (recording: Recording) =>
  interactionsOf(recording).map(
    ({ label, feltMs, measured }) => [label, { ms: feltMs, isBound: !measured }] as const,
  );

/** The outcomes of inputs; where nothing came after the answer, that. */
function outcomesIn(recording: Recording): (readonly [string, Slowest])[] {
  const outcomes = outcomesOf(recording).map(
    ({ interaction, lengthMs }) => [interaction.label, { ms: lengthMs, isBound: false }] as const,
  );
  return [...responsesIn(recording), ...outcomes];
}

/** How a quiet range is called in what was held against a budget. */
function quietWords({ name, startMs, endMs }: QuietRange): string {
  return name === undefined ? `from ${secondsText(startMs)} to ${secondsText(endMs)}` : `“${name}”`;
}

/** Holds a recording against a budget. */
export function checkBudget(recording: Recording, budget: Budget): BudgetResult[] {
  const results = [
    ...heldAgainst('Response to', responsesIn(recording), budget.responses),
    ...heldAgainst('Outcome of', outcomesIn(recording), budget.outcomes ?? []),
  ];
  const add = (what: string, found: number, allowed: number | undefined, unit: string) => {
    if (allowed !== undefined) {
      results.push({ what, found, allowed, unit, isBound: false, kept: found <= allowed });
    }
  };
  const tasks = [...recording.events.task.rows()].filter(
    ({ durationMs }) => durationMs > DEFAULT_THRESHOLDS.longTaskMs,
  );
  add(
    'Time in long tasks',
    tasks.reduce((sum, { durationMs }) => sum + durationMs, 0),
    budget.longTaskMs,
    'ms',
  );
  const forced = [...recording.events.forced.rows()].reduce((sum, { count }) => sum + count, 0);
  add('Forced layouts', forced, budget.forcedLayouts, 'times');
  const idle = idleWork.find(recording, { ...DEFAULT_THRESHOLDS, idleMsASecond: 0 });
  add(
    'Share of idle work',
    idle.reduce((sum, { feltMs }) => sum + feltMs / 1000, 0),
    budget.idleShare,
    'of the time',
  );
  if (budget.quiet !== undefined) {
    const { redraws, scriptMs, requests } = budget.quiet;
    const ranges = quietRanges(recording);
    if (ranges.length === 0) {
      const none = { found: 0, allowed: 0, unit: 'ranges', isBound: false, kept: undefined };
      results.push({ what: 'Quiet ranges: none is marked', ...none });
    }
    for (const range of ranges) {
      const found = quietSums(recording, range, DEFAULT_THRESHOLDS);
      const where = `in the quiet range ${quietWords(range)}`;
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
  return results;
}
