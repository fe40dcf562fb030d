import { BREAKDOWN_PARTS, type BreakdownPart, type Skyline } from '@nettle-patch/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';

/** One stretch of a recording, summed up. */
export interface StripRow {
  readonly startMs: number;
  readonly endMs: number;
  /** Busy time by kind of work, those without any left out. Milliseconds. */
  readonly parts: readonly { readonly part: BreakdownPart; readonly ms: number }[];
  readonly stings: number;
  readonly inputs: number;
}

type StripContent = Pick<OpenedRecording, 'range' | 'skyline' | 'stings' | 'inputs'>;

/** What the ground strip shows, as so many rows of equal length at most. */
export function stripRows({ range, skyline, stings, inputs }: StripContent, most: number): StripRow[] {
  const steps = Math.ceil(skyline.steps / most);
  const rows = Math.ceil(skyline.steps / steps);
  const rowMs = steps * skyline.stepMs;
  const rowOf = (ms: number) => Math.max(0, Math.min(rows - 1, Math.floor(ms / rowMs)));
  const stingsIn = countsBy(stings, ({ startMs }) => rowOf(startMs));
  const inputsIn = countsBy(inputs, rowOf);
  return Array.from({ length: rows }, (_, row) => ({
    startMs: row * rowMs,
    endMs: Math.min(range.endMs, (row + 1) * rowMs),
    parts: busyParts(skyline, row * steps, (row + 1) * steps),
    stings: stingsIn.get(row) ?? 0,
    inputs: inputsIn.get(row) ?? 0,
  }));
}

/** Busy time in some steps of a skyline by kind of work, those without any left out. Milliseconds. */
export function busyParts({ parts }: Skyline, from: number, to: number): StripRow['parts'] {
  return BREAKDOWN_PARTS.flatMap((part) => {
    if (part === 'idleMs') return [];
    const ms = parts[part].subarray(from, to).reduce((sum, one) => sum + one, 0);
    return ms > 0 ? [{ part, ms }] : [];
  });
}

function countsBy<T>(things: readonly T[], rowOf: (thing: T) => number): Map<number, number> {
  const counts = new Map<number, number>();
  for (const thing of things) counts.set(rowOf(thing), (counts.get(rowOf(thing)) ?? 0) + 1);
  return counts;
}
