import { functionTable, type FunctionRow } from '../calls/function-table';
import { WIDE_LENS, type Lens } from '../calls/lens';
import { displayName, displayPlace, ownerOf, type Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { functionKeys } from './function-identity';

export type FunctionChange = 'gone' | 'new' | 'cheaper' | 'dearer' | 'same';

/** What a function took in one recording. Milliseconds. */
export interface FunctionSide {
  readonly functionId: number;
  readonly selfMs: number;
  readonly totalMs: number;
  /** Exact calls; 0 where only samples tell. */
  readonly count: number;
  /** Total time of one call; undefined where calls were not counted. */
  readonly eachMs: number | undefined;
}

export interface ComparedFunction {
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  readonly before: FunctionSide | undefined;
  readonly after: FunctionSide | undefined;
  readonly change: FunctionChange;
  /** Self time after less before. */
  readonly selfChangeMs: number;
}

/** Less than this, or than this share, is no change worth telling. */
const LEAST_MS = 2;
const LEAST_SHARE = 0.1;

function sideOf(row: FunctionRow | undefined): FunctionSide | undefined {
  if (row === undefined) return undefined;
  const { functionId, selfMs, totalMs, count } = row;
  return { functionId, selfMs, totalMs, count, eachMs: count > 0 ? totalMs / count : undefined };
}

function changeOf(before: FunctionSide | undefined, after: FunctionSide | undefined): FunctionChange {
  if (after === undefined) return 'gone';
  if (before === undefined) return 'new';
  const change = after.selfMs - before.selfMs;
  const least = Math.max(LEAST_MS, LEAST_SHARE * Math.max(before.selfMs, after.selfMs));
  if (Math.abs(change) < least) return 'same';
  return change < 0 ? 'cheaper' : 'dearer';
}

function tableByKey(recording: Recording, lens: Lens): Map<string, FunctionRow> {
  const rows = functionTable(recording, lens);
  const keys = functionKeys(
    recording,
    rows.map(({ functionId }) => functionId),
  );
  return new Map(rows.map((row) => [keys.get(row.functionId)!, row]));
}

/** Compares what each function took in two recordings, the largest change of self time first. */
export function compareFunctions(
  before: Recording,
  after: Recording,
  lens: Omit<Lens, 'range' | 'focus'> = WIDE_LENS,
): ComparedFunction[] {
  const was = tableByKey(before, { ...WIDE_LENS, ...lens });
  const is = tableByKey(after, { ...WIDE_LENS, ...lens });
  const compared = [...new Set([...was.keys(), ...is.keys()])].map((key): ComparedFunction => {
    const sides = [sideOf(was.get(key)), sideOf(is.get(key))] as const;
    const recording = sides[1] === undefined ? before : after;
    const recorded = recording.functions.get((sides[1] ?? sides[0])!.functionId);
    return {
      name: displayName(recorded),
      place: displayPlace(recorded, recording.sources.get(recorded?.source ?? -1)),
      owner: ownerOf(recorded),
      before: sides[0],
      after: sides[1],
      change: changeOf(...sides),
      selfChangeMs: (sides[1]?.selfMs ?? 0) - (sides[0]?.selfMs ?? 0),
    };
  });
  return compared.sort(
    (a, b) => Math.abs(b.selfChangeMs) - Math.abs(a.selfChangeMs) || (a.name < b.name ? -1 : 1),
  );
}
