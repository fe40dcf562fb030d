import { ownerOf, type Owner } from '../recording/functions';
import { samplesOf, type Recording } from '../recording/recording';
import { closerOf } from '../recording/closer';
import { countedCalls } from '../recording/counted-calls';
import { lensRange, type Lens } from './lens';
import { tallyCalls, type Tally } from './tally';
import { outermostOfFunction } from '../recording/tree-index';

/** What one function took in all. Times are milliseconds. */
export interface FunctionRow {
  readonly functionId: number;
  readonly owner: Owner;
  readonly selfMs: number;
  /** Time during which it was on the stack: a call inside another call of it counts once. */
  readonly totalMs: number;
  /** Calls of which the times are known; 0 where only samples tell. */
  readonly count: number;
  /** All calls, where they were counted: in fine mode, and of functions too quick for exact calls; else 0. */
  readonly counted: number;
  /** Stretches in which samples saw it. */
  readonly seen: number;
  /** The shortest and the longest call, or stretch in which samples saw it. */
  readonly shortestMs: number;
  readonly longestMs: number;
  readonly callsPerSecond: number;
  /** How far chance may have moved the self time, where it was sampled: one standard error. */
  readonly selfErrorMs: number;
}

type Growing = { -readonly [Key in keyof FunctionRow]: FunctionRow[Key] } & {
  varianceMs2: number;
  togetherMs2: number;
};

/**
 * All functions under a lens, those with the most time of their own first.
 * @param tally that of the lens, where it was made already
 */
export function functionTable(
  recording: Recording,
  lens: Lens,
  tally: Tally = tallyCalls(recording, lens),
): FunctionRow[] {
  const rows = functionRows(recording, lens, tally);
  if (!lens.foldRecursion) return rows;
  const unfolded = functionTable(recording, { ...lens, foldRecursion: false });
  const totals = new Map(unfolded.map(({ functionId, totalMs }) => [functionId, totalMs]));
  return rows.map((row) => ({ ...row, totalMs: totals.get(row.functionId) ?? row.totalMs }));
}

/**
 * One standard error of a sampled time: each of its samples came by chance, but those of one unbroken stretch came in
 * step, so that no more than one of them did (systematic sampling; Cochran, Sampling Techniques, chapter 8). Those that
 * came of one measurement came or stayed away together.
 */
function samplingError({ selfMs, seen, togetherMs2 }: Growing, intervalMs: number): number {
  if (intervalMs === 0 || selfMs === 0) return 0;
  const aloneMs = intervalMs * Math.sqrt(Math.min(seen, Math.max(1, selfMs / intervalMs)));
  return Math.hypot(aloneMs, Math.min(selfMs, Math.sqrt(togetherMs2)));
}

function functionRows(recording: Recording, lens: Lens, tally: Tally): FunctionRow[] {
  const { thread } = lens;
  const { nodes } = tally;
  const outermost = outermostOfFunction(nodes);
  const rows = new Map<number, Growing>();
  for (let node = 0; node < nodes.length; node++) {
    if (tally.totalMs[node] === 0 && tally.counts[node] === 0) continue;
    const functionId = nodes.functionOf(node);
    let row = rows.get(functionId);
    if (row === undefined) rows.set(functionId, (row = emptyRow(recording, functionId)));
    row.selfMs += tally.selfMs[node]!;
    row.count += tally.counts[node]!;
    row.seen += tally.seen[node]!;
    row.varianceMs2 += tally.varianceMs2[node]!;
    row.togetherMs2 += tally.togetherMs2[node]!;
    row.shortestMs = Math.min(row.shortestMs, tally.shortestMs[node]!);
    row.longestMs = Math.max(row.longestMs, tally.longestMs[node]!);
    if (outermost[node] === 1) row.totalMs += tally.totalMs[node]!;
  }
  if (lens.focus.length === 0) {
    for (const [functionId, calls] of countedCalls(recording, thread, lensRange(recording, lens)).calls) {
      let row = rows.get(functionId);
      if (row === undefined) rows.set(functionId, (row = emptyRow(recording, functionId)));
      row.counted = Math.round(calls);
    }
  }
  const { intervalMs } = samplesOf(recording, thread);
  const closer = closerOf(recording);
  for (const row of rows.values()) {
    // Where one function was looked at closer, another may have been called from it and from elsewhere.
    const isSampled = row.count === 0 || (closer !== undefined && row.count < row.counted);
    row.selfErrorMs = isSampled ? samplingError(row, intervalMs) : Math.sqrt(row.varianceMs2);
    row.callsPerSecond = tally.rangeMs === 0 ? 0 : callsOfRow(row) / (tally.rangeMs / 1000);
  }
  return Array.from(rows.values(), ({ varianceMs2: _, togetherMs2: __, ...row }) => row).sort(
    (a, b) => b.selfMs - a.selfMs || a.functionId - b.functionId,
  );
}

/**
 * How often a function was called, as far as that is known: by exact calls, or counted. What is counted are all calls, of
 * which some may have been recorded exactly.
 */
export function callsOfRow({ count, counted }: Pick<FunctionRow, 'count' | 'counted'>): number {
  return Math.max(count, counted);
}

function emptyRow(recording: Recording, functionId: number): Growing {
  return {
    functionId,
    owner: ownerOf(recording.functions.get(functionId)),
    selfMs: 0,
    totalMs: 0,
    count: 0,
    counted: 0,
    seen: 0,
    shortestMs: Infinity,
    longestMs: 0,
    callsPerSecond: 0,
    selfErrorMs: 0,
    varianceMs2: 0,
    togetherMs2: 0,
  };
}
