import type { FunctionRow } from '../calls/function-table';
import { WIDE_LENS, type Lens } from '../calls/lens';
import type { Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { LEVEL } from '../statistics/level';
import { onOneSideChance } from '../statistics/one-sided';
import {
  commonLabels,
  functionSide,
  namedIn,
  sideFor,
  unitOf,
  type Cost,
  type FunctionSide,
  type FunctionUnit,
  type Side,
} from './function-sides';

export type FunctionChange = 'gone' | 'new' | 'cheaper' | 'dearer' | 'same' | 'unsure';

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
/** Exact calls miss nothing: what was called each time something was done is gone when it is done once without. */
const MIN_EXPECTED_CALLS = 1;

const countsCalls = (side: Side, row: FunctionRow) => side.recording.calls.size > 0 && row.count > 0;

/** How often a function of one recording is expected to have been seen in the other, if nothing had changed. */
function expectedIn(other: Side, of: Side, row: FunctionRow, unit: FunctionUnit): number {
  const isCounted = countsCalls(other, row);
  if (!isCounted && other.intervalMs === 0) return 0;
  const seen = ({ selfMs, count }: Cost) => (isCounted ? count : selfMs / other.intervalMs);
  if (unit === 'second') return (seen(row) / of.seconds) * other.seconds;
  return of.deeds.reduce((sum, { attempts, costs }, at) => {
    const cost = costs.get(row.functionId);
    return cost === undefined ? sum : sum + (seen(cost) / attempts) * other.deeds[at]!.attempts;
  }, 0);
}

/** Whether a function of one recording would have been seen in the other, too, if nothing had changed. */
function isMissed(other: Side, of: Side, row: FunctionRow, unit: FunctionUnit): boolean {
  const expected = expectedIn(other, of, row, unit);
  const isCounted = countsCalls(other, row);
  if (isCounted && unit === 'attempt') return expected >= MIN_EXPECTED_CALLS;
  // Where its time is known, samples of it come by chance; else so do those that tell of it.
  if (row.count > 0 && !isCounted) return Math.exp(-expected) <= LEVEL;
  const seen = expectedIn(of, of, row, unit);
  return expected > 0 && onOneSideChance(seen, seen / (seen + expected)) <= LEVEL;
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
  if (before !== undefined) return isMissed(is, was, before, unit) ? 'gone' : 'unsure';
  return after !== undefined && isMissed(was, is, after, unit) ? 'new' : 'unsure';
}

/** What changed where both sides have a function. */
export function changeOf(before: FunctionSide, after: FunctionSide): FunctionChange {
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
  const labels = commonLabels([before, after]);
  const [was, is] = [sideFor(before, labels, whole), sideFor(after, labels, whole)];
  const compared = [...new Set([...was.rows.keys(), ...is.rows.keys()])].map((key): ComparedFunction => {
    const [b, a] = [was.rows.get(key), is.rows.get(key)];
    const unit = unitOf([was, is], [b, a]);
    const [side, other] = [functionSide(was, b, unit), functionSide(is, a, unit)];
    const change = absenceOf(was, is, b, a, unit) ?? changeOf(side!, other!);
    return {
      ...namedIn([was, is], [b, a]),
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
