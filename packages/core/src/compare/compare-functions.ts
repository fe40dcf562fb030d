import { functionTable, type FunctionRow } from '../calls/function-table';
import { WIDE_LENS, type Lens } from '../calls/lens';
import { interactionsOf, type Interaction } from '../inputs/interactions';
import { displayName, displayPlace, ownerOf, type Owner } from '../recording/functions';
import { samplesOf, type Recording } from '../recording/recording';
import { functionKeys } from './function-identity';

export type FunctionChange = 'gone' | 'new' | 'cheaper' | 'dearer' | 'same' | 'unsure';

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

export interface ComparedFunction {
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  readonly unit: FunctionUnit;
  readonly before: FunctionSide | undefined;
  readonly after: FunctionSide | undefined;
  readonly change: FunctionChange;
  /** Own time an attempt or a second, after less before. */
  readonly perUnitChangeMs: number;
}

/** Less than this an attempt or a second, or than this share, is no change worth telling. */
const MIN_MS = 0.5;
const MIN_SHARE = 0.1;
/** Standard errors of a difference that is more than chance. */
const ERRORS = 2;
/** From so many expected samples on, or calls that came by chance, their absence says something (Poisson: 5 % at 3). */
const MIN_EXPECTED = 3;
/** Exact calls miss nothing: what was called each time something was done is gone when it is done once without. */
const MIN_EXPECTED_CALLS = 1;

/** What a function took while one thing was done, all attempts together. */
interface Cost {
  readonly selfMs: number;
  readonly count: number;
}

/** One thing that was done in both recordings, as one of them has it. */
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

/** Labels of what was done in both recordings. */
function commonLabels(before: Recording, after: Recording): Set<string> {
  const of = (recording: Recording) => new Set(interactionsOf(recording).map(({ label }) => label));
  const is = of(after);
  return new Set([...of(before)].filter((label) => is.has(label)));
}

interface Side {
  readonly recording: Recording;
  readonly rows: ReadonlyMap<string, FunctionRow>;
  /** What was done in both, in the same order on both sides. */
  readonly deeds: readonly Deed[];
  readonly seconds: number;
  readonly intervalMs: number;
}

function sideFor(recording: Recording, labels: ReadonlySet<string>, lens: Lens): Side {
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

/** Own time where each of the things that were done in both is done once, and its standard error where it was sampled. */
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

function functionSide(
  side: Side,
  row: FunctionRow | undefined,
  unit: FunctionUnit,
): FunctionSide | undefined {
  if (row === undefined) return undefined;
  const { functionId, selfMs, totalMs, count } = row;
  const rate = unit === 'attempt' ? perAttempt(side, row) : perSecond(side, row);
  return { functionId, selfMs, totalMs, count, eachMs: count > 0 ? totalMs / count : undefined, ...rate };
}

/** How often a function of one recording is expected to have been seen in the other, if nothing had changed. */
function expectedIn(other: Side, of: Side, row: FunctionRow, unit: FunctionUnit): number {
  const countsCalls = other.recording.calls.size > 0 && row.count > 0;
  if (!countsCalls && other.intervalMs === 0) return 0;
  const seen = ({ selfMs, count }: Cost) => (countsCalls ? count : selfMs / other.intervalMs);
  if (unit === 'second') return (seen(row) / of.seconds) * other.seconds;
  return of.deeds.reduce((sum, { attempts, costs }, at) => {
    const cost = costs.get(row.functionId);
    return cost === undefined ? sum : sum + (seen(cost) / attempts) * other.deeds[at]!.attempts;
  }, 0);
}

/** What it says that one side does not have a function; undefined where both do. */
function absenceOf(
  was: Side,
  is: Side,
  before: FunctionRow | undefined,
  after: FunctionRow | undefined,
  unit: FunctionUnit,
): FunctionChange | undefined {
  if (before !== undefined && after !== undefined) return undefined;
  const least = ({ count }: FunctionRow) =>
    count > 0 && unit === 'attempt' ? MIN_EXPECTED_CALLS : MIN_EXPECTED;
  if (before !== undefined) return expectedIn(is, was, before, unit) >= least(before) ? 'gone' : 'unsure';
  return after !== undefined && expectedIn(was, is, after, unit) >= least(after) ? 'new' : 'unsure';
}

function changeOf(before: FunctionSide, after: FunctionSide): FunctionChange {
  const change = after.perUnitMs - before.perUnitMs;
  const least = Math.max(MIN_MS, MIN_SHARE * Math.max(before.perUnitMs, after.perUnitMs));
  const chance = ERRORS * Math.hypot(before.errorMs, after.errorMs);
  if (Math.abs(change) < least) return 'same';
  if (Math.abs(change) < chance) return 'unsure';
  return change < 0 ? 'cheaper' : 'dearer';
}

/**
 * Compares what each function took in two recordings, the largest change first: for each time that what was done in both
 * was done, where it ran for that, and for each second otherwise. Sampled times differ only beyond their sampling error.
 */
export function compareFunctions(
  before: Recording,
  after: Recording,
  lens: Omit<Lens, 'range' | 'focus'> = WIDE_LENS,
): ComparedFunction[] {
  const whole = { ...WIDE_LENS, ...lens };
  const labels = commonLabels(before, after);
  const [was, is] = [sideFor(before, labels, whole), sideFor(after, labels, whole)];
  const compared = [...new Set([...was.rows.keys(), ...is.rows.keys()])].map((key): ComparedFunction => {
    const [b, a] = [was.rows.get(key), is.rows.get(key)];
    const isFor = (side: Side, row: FunctionRow | undefined) => row === undefined || isForAnswers(side, row);
    const unit: FunctionUnit = labels.size > 0 && isFor(was, b) && isFor(is, a) ? 'attempt' : 'second';
    const [side, other] = [functionSide(was, b, unit), functionSide(is, a, unit)];
    const recorded = (a === undefined ? before : after).functions.get((a ?? b)!.functionId);
    const { sources } = a === undefined ? before : after;
    const change = absenceOf(was, is, b, a, unit) ?? changeOf(side!, other!);
    return {
      name: displayName(recorded),
      place: displayPlace(recorded, sources.get(recorded?.source ?? -1)),
      owner: ownerOf(recorded),
      unit,
      before: side,
      after: other,
      change,
      perUnitChangeMs: (other?.perUnitMs ?? 0) - (side?.perUnitMs ?? 0),
    };
  });
  return compared.sort(
    (a, b) => Math.abs(b.perUnitChangeMs) - Math.abs(a.perUnitChangeMs) || (a.name < b.name ? -1 : 1),
  );
}
