import { untimedCalls, withoutCalled } from '../attribution/untimed-calls';
import { closerOf } from '../recording/closer';
import type { CallSpans } from '../recording/call-spans';
import { samplesOf, type Recording } from '../recording/recording';
import type { StackTable } from '../recording/stack-table';
import { callLogOf } from './call-log';
import { lensRange, type Lens } from './lens';
import { HIDDEN, lensNodes, type LensNodes } from './lens-nodes';
import { HITS, MAX, MIN, SUMS, TOTAL, stackSums } from './stack-sums';

/**
 * The calls of a thread under a lens, added up by node of the folded call tree. All columns have an entry a node;
 * nodes stand after their callers. Times are milliseconds.
 */
export interface Tally {
  readonly nodes: StackTable;
  /** Time in calls of the node, all that they called included; what is folded into a node above it is left out. */
  readonly totalMs: Float64Array;
  /** The same without what has a node of its own below. */
  readonly selfMs: Float64Array;
  /** Exact calls. */
  readonly counts: Uint32Array;
  /** Stretches in which samples saw it. */
  readonly seen: Uint32Array;
  /** Of the self time, how far chance may have moved what calls took of which only one of many was timed: its variance. */
  readonly varianceMs2: Float64Array;
  /** The same of samples that came together, where the self time is sampled. */
  readonly togetherMs2: Float64Array;
  /** Shortest and longest of them all. */
  readonly shortestMs: Float64Array;
  readonly longestMs: Float64Array;
  /** Length of the range the lens shows. */
  readonly rangeMs: number;
}

interface TallyColumns {
  readonly selfUs: Float64Array;
  readonly shortestUs: Float64Array;
  readonly longestUs: Float64Array;
  readonly hits: Uint32Array;
}

/** Self times below this are what is left of rounding. Microseconds. */
const MIN_SELF_US = 1e-5;

/** Adds what each stack took itself to the node it belongs to, and its calls to the node that they open. */
function addSums(
  sums: Float64Array,
  parentOf: (stack: number) => number,
  { nodeOf, opens }: LensNodes,
  { selfUs, shortestUs, longestUs, hits }: TallyColumns,
): void {
  for (let stack = 0; stack < opens.length; stack++) {
    const place = stack * SUMS;
    const count = sums[place + HITS]!;
    const belongsTo = nodeOf[stack]!;
    if (belongsTo < 0 || count === 0) continue;
    const us = sums[place + TOTAL]!;
    selfUs[belongsTo] = selfUs[belongsTo]! + us;
    const caller = parentOf(stack);
    const callerNode = caller < 0 ? HIDDEN : nodeOf[caller]!;
    if (callerNode >= 0) selfUs[callerNode] = selfUs[callerNode]! - us;
    const node = opens[stack]!;
    if (node < 0) continue;
    hits[node] = hits[node]! + count;
    shortestUs[node] = Math.min(shortestUs[node]!, sums[place + MIN]!);
    longestUs[node] = Math.max(longestUs[node]!, sums[place + MAX]!);
  }
}

/** Where one function was looked at closer: what stands around its calls as a caller was not called then. */
function countingCalls(recording: Recording, lensed: LensNodes): LensNodes {
  const closer = closerOf(recording);
  if (closer === undefined) return lensed;
  return { ...lensed, opens: lensed.opens.map((node, stack) => (closer.isWithin(stack) ? node : HIDDEN)) };
}

/**
 * Moves what calls of quick functions took that were not timed from their callers to them. The clock steps, so that each
 * timed call of a length d is one step s or none, with a variance of d × s.
 */
function addUntimed(
  recording: Recording,
  thread: number,
  sums: Float64Array,
  { nodeOf }: LensNodes,
  { selfUs, varianceMs2 }: { readonly selfUs: Float64Array; readonly varianceMs2: Float64Array },
): void {
  const untimed = untimedCalls(recording, thread);
  if (untimed.size === 0) return;
  const { stacks, header } = recording;
  const totalUs = Float64Array.from({ length: stacks.length }, (_, stack) => sums[stack * SUMS + TOTAL]!);
  const ownUs = withoutCalled(stacks, totalUs);
  for (const [caller, calls] of untimed) {
    for (const { stack, share, every } of calls) {
      const us = ownUs[caller]! * share;
      const [from, to] = [nodeOf[caller]!, nodeOf[stack]!];
      if (to < 0 || from === to || us <= 0) continue;
      selfUs[to]! += us;
      if (from >= 0) selfUs[from]! -= us;
      varianceMs2[to]! += (every * us * header.clockStepMs) / 1000;
    }
  }
}

/** Variance, by node, of samples that came together: n of one measurement are all there, or none is. */
function varianceTogether(recording: Recording, lens: Lens, { nodes, nodeOf }: LensNodes): Float64Array {
  const varianceMs2 = new Float64Array(nodes.length);
  const samples = samplesOf(recording, lens.thread);
  if (samples.together === undefined) return varianceMs2;
  const { startMs, endMs } = lensRange(recording, lens);
  const end = samples.firstAtOrAfter(endMs);
  for (let at = samples.firstAtOrAfter(startMs); at < end; at++) {
    const together = samples.togetherAt(at);
    if (together === 1 || !samples.hasScript(at)) continue;
    const node = nodeOf[samples.stacks[at]!]!;
    if (node >= 0) varianceMs2[node]! += together * samples.intervalOf(at) ** 2;
  }
  return varianceMs2;
}

/** Time of each node with all below it, from the self times. Nodes stand after their callers. */
function totalsOf(selfUs: Float64Array, nodes: StackTable): Float64Array {
  const totals = selfUs.slice();
  for (let node = totals.length - 1; node >= 0; node--) {
    const parent = nodes.parentOf(node);
    if (parent >= 0) totals[parent] = totals[parent]! + totals[node]!;
  }
  return totals;
}

/** Adds up the calls that a lens shows. */
export function tallyCalls(recording: Recording, lens: Lens): Tally {
  const log = callLogOf(recording, lens.thread);
  return tallyWith(recording, lens, lensNodes(recording, lens), [log.exact, log.sampled]);
}

function tallyWith(
  recording: Recording,
  lens: Lens,
  lensed: LensNodes,
  [exact, sampled]: readonly [CallSpans, CallSpans],
): Tally {
  const { startMs, endMs } = lensRange(recording, lens);
  const { nodes } = lensed;
  const { stacks } = recording;
  const selfUs = new Float64Array(nodes.length);
  const counts = new Uint32Array(nodes.length);
  const seen = new Uint32Array(nodes.length);
  const shortestUs = new Float64Array(nodes.length).fill(Infinity);
  const longestUs = new Float64Array(nodes.length);
  const columns = { selfUs, shortestUs, longestUs };
  const range = { startUs: startMs * 1000, endUs: endMs * 1000, minUs: lens.minMs * 1000 };
  const parentOf = (stack: number) => stacks.parentOf(stack);
  const sumsOf = (spans: CallSpans) => stackSums(spans, stacks.length, range);
  addSums(sumsOf(exact), parentOf, countingCalls(recording, lensed), { ...columns, hits: counts });
  const varianceMs2 = new Float64Array(nodes.length);
  if (lens.minMs === 0) addUntimed(recording, lens.thread, sumsOf(exact), lensed, { selfUs, varianceMs2 });
  addSums(sumsOf(sampled), parentOf, lensed, { ...columns, hits: seen });
  for (let node = 0; node < selfUs.length; node++) {
    if (Math.abs(selfUs[node]!) < MIN_SELF_US) selfUs[node] = 0;
  }
  const inMs = (us: Float64Array) => us.map((value) => value / 1000);
  return {
    nodes,
    totalMs: inMs(totalsOf(selfUs, nodes)),
    selfMs: inMs(selfUs),
    counts,
    seen,
    varianceMs2,
    togetherMs2: varianceTogether(recording, lens, lensed),
    shortestMs: inMs(shortestUs),
    longestMs: inMs(longestUs),
    rangeMs: Math.max(0, endMs - startMs),
  };
}
