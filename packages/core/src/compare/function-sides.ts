import { functionTable, type FunctionRow } from '../calls/function-table';
import type { Lens } from '../calls/lens';
import { interactionsOf, type Interaction } from '../inputs/interactions';
import { displayName, displayPlace, ownerOf, type Owner } from '../recording/functions';
import { samplesOf, type Recording } from '../recording/recording';
import { functionKeys } from './function-identity';

/** By what the cost of a function is divided: how often the things were done that it ran for, or seconds. */
export type FunctionUnit = 'attempt' | 'second';

/** What a function took in one recording. Milliseconds. */
export interface FunctionSide {
  readonly functionId: number;
  readonly selfMs: number;
  readonly totalMs: number;
  /** Exact calls; 0 where only samples tell. */
  readonly count: number;
  /** Total time of one call; undefined where calls were not counted. */
  readonly eachMs: number | undefined;
  /** Own time an attempt, or a second. */
  readonly perUnitMs: number;
  /** How far chance may move that, where it was sampled: one standard error. */
  readonly errorMs: number;
}

/** What a function took while one thing was done, all attempts together. */
export interface Cost {
  readonly selfMs: number;
  readonly count: number;
}

/** One thing that was done in all recordings that are compared, as one of them has it. */
interface Deed {
  readonly attempts: number;
  readonly costs: ReadonlyMap<number, Cost>;
}

/** So many attempts of each thing are taken apart, evenly over the recording. */
const MAX_ATTEMPTS = 400;

function evenly<T>(all: readonly T[]): readonly T[] {
  const step = Math.max(1, all.length / MAX_ATTEMPTS);
  return step === 1 ? all : Array.from({ length: MAX_ATTEMPTS }, (_, at) => all[Math.floor(at * step)]!);
}

function deedsOf(recording: Recording, labels: ReadonlySet<string>, lens: Lens): Deed[] {
  const answers = new Map([...labels].map((label): [string, Interaction[]] => [label, []]));
  for (const answer of interactionsOf(recording)) answers.get(answer.label)?.push(answer);
  return [...answers.values()].map((all): Deed => {
    const attempts = evenly(all);
    const costs = new Map<number, Cost>();
    for (const { startMs, feltMs } of attempts) {
      const range = [startMs, startMs + feltMs];
      for (const { functionId, selfMs, count } of functionTable(recording, { ...lens, range })) {
        const known = costs.get(functionId) ?? { selfMs: 0, count: 0 };
        costs.set(functionId, { selfMs: known.selfMs + selfMs, count: known.count + count });
      }
    }
    return { attempts: attempts.length, costs };
  });
}

/** Labels of what was done in all of some recordings. */
export function commonLabels([first, ...others]: readonly Recording[]): Set<string> {
  const of = (recording: Recording) => new Set(interactionsOf(recording).map(({ label }) => label));
  const rest = others.map(of);
  return new Set(
    first === undefined ? [] : [...of(first)].filter((label) => rest.every((one) => one.has(label))),
  );
}

/** A recording, as its functions are compared with those of others. */
export interface Side {
  readonly recording: Recording;
  readonly rows: ReadonlyMap<string, FunctionRow>;
  /** What was done in all of them, in the same order in each. */
  readonly deeds: readonly Deed[];
  readonly seconds: number;
  readonly intervalMs: number;
}

/** @param labels of what was done in all recordings that are compared */
export function sideFor(recording: Recording, labels: ReadonlySet<string>, lens: Lens): Side {
  const rows = functionTable(recording, lens);
  const keys = functionKeys(
    recording,
    rows.map(({ functionId }) => functionId),
  );
  return {
    recording,
    rows: new Map(rows.map((row) => [keys.get(row.functionId)!, row])),
    deeds: deedsOf(recording, labels, lens),
    seconds: Math.max(0.001, recording.range.endMs / 1000),
    intervalMs: samplesOf(recording, lens.thread).intervalMs,
  };
}

/** Whether most of what a function took fell into answers. */
function isForAnswers({ deeds }: Side, { functionId, selfMs }: FunctionRow): boolean {
  const answeringMs = deeds.reduce((sum, { costs }) => sum + (costs.get(functionId)?.selfMs ?? 0), 0);
  return answeringMs > selfMs / 2;
}

/**
 * By what the cost of a function is divided: attempts where it ran for them, in each recording that has it.
 * @param rows what each of the sides has of it, in their order
 */
export function unitOf(sides: readonly Side[], rows: readonly (FunctionRow | undefined)[]): FunctionUnit {
  const isFor = sides.every((side, at) => rows[at] === undefined || isForAnswers(side, rows[at]));
  return isFor && sides.some(({ deeds }) => deeds.length > 0) ? 'attempt' : 'second';
}

/** A function as the last of some recordings that has it names it. @param rows as for `unitOf`, one of them given */
export function namedIn(
  sides: readonly Side[],
  rows: readonly (FunctionRow | undefined)[],
): { readonly name: string; readonly place: string; readonly owner: Owner } {
  const at = rows.findLastIndex((row) => row !== undefined);
  const { functions, sources } = sides[at]!.recording;
  const recorded = functions.get(rows[at]!.functionId);
  return {
    name: displayName(recorded),
    place: displayPlace(recorded, sources.get(recorded?.source ?? -1)),
    owner: ownerOf(recorded),
  };
}

/** Own time where each of the things that were done in all is done once, and its standard error where it was sampled. */
function perAttempt({ deeds, intervalMs }: Side, { functionId, count }: FunctionRow) {
  let ms = 0;
  let variance = 0;
  for (const { attempts, costs } of deeds) {
    const selfMs = costs.get(functionId)?.selfMs ?? 0;
    ms += selfMs / attempts;
    if (count === 0) variance += (selfMs * intervalMs) / attempts ** 2;
  }
  return { perUnitMs: ms, errorMs: Math.sqrt(variance) };
}

function perSecond({ seconds, intervalMs }: Side, { selfMs, count }: FunctionRow) {
  const variance = count > 0 ? 0 : selfMs * intervalMs;
  return { perUnitMs: selfMs / seconds, errorMs: Math.sqrt(variance) / seconds };
}

/** What a function took in a recording; undefined where it was not seen there. */
export function functionSide(
  side: Side,
  row: FunctionRow | undefined,
  unit: FunctionUnit,
): FunctionSide | undefined {
  if (row === undefined) return undefined;
  const { functionId, selfMs, totalMs, count } = row;
  const rate = unit === 'attempt' ? perAttempt(side, row) : perSecond(side, row);
  return { functionId, selfMs, totalMs, count, eachMs: count > 0 ? totalMs / count : undefined, ...rate };
}
