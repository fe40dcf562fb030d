import type { CallSpans } from '../recording/call-spans';
import type { Recording } from '../recording/recording';
import type { StackTable } from '../recording/stack-table';
import { callLogOf } from './call-log';
import { lensRange, type Lens } from './lens';
import { lensNodes, type LensNodes } from './lens-nodes';
import { HITS, LONGEST, SHORTEST, SUMS, TOTAL, stackSums } from './stack-sums';

/**
 * The calls of a thread under a lens, added up by node of the folded call tree. All columns have an entry a node;
 * nodes stand after their callers. Times are milliseconds.
 */
export interface Tally {
  readonly nodes: StackTable;
  /** Time in calls of the node, all that they called included. */
  readonly totalMs: Float64Array;
  /** The same without what has a node of its own below. */
  readonly selfMs: Float64Array;
  /** Exact calls. */
  readonly counts: Uint32Array;
  /** Stretches in which samples saw it. */
  readonly seen: Uint32Array;
  /** Shortest and longest of them all. */
  readonly shortestMs: Float64Array;
  readonly longestMs: Float64Array;
  /** Length of the range the lens shows. */
  readonly rangeMs: number;
}

interface TallyColumns {
  readonly parents: Int32Array;
  readonly totalUs: Float64Array;
  readonly calledUs: Float64Array;
  readonly shortestUs: Float64Array;
  readonly longestUs: Float64Array;
  readonly hits: Uint32Array;
}

/** Adds what each stack took to the node that its calls open. */
function addSums(
  sums: Float64Array,
  opens: Int32Array,
  { parents, totalUs, calledUs, shortestUs, longestUs, hits }: TallyColumns,
): void {
  for (let stack = 0; stack < opens.length; stack++) {
    const node = opens[stack]!;
    const place = stack * SUMS;
    const count = sums[place + HITS]!;
    if (node < 0 || count === 0) continue;
    const us = sums[place + TOTAL]!;
    totalUs[node] = totalUs[node]! + us;
    const parent = parents[node]!;
    if (parent >= 0) calledUs[parent] = calledUs[parent]! + us;
    hits[node] = hits[node]! + count;
    shortestUs[node] = Math.min(shortestUs[node]!, sums[place + SHORTEST]!);
    longestUs[node] = Math.max(longestUs[node]!, sums[place + LONGEST]!);
  }
}

/** Adds up the calls that a lens shows. */
export function tallyCalls(recording: Recording, lens: Lens): Tally {
  const log = callLogOf(recording, lens.thread);
  return tallyWith(recording, lens, lensNodes(recording, lens), [log.exact, log.told]);
}

function tallyWith(
  recording: Recording,
  lens: Lens,
  { nodes, opens }: LensNodes,
  [exact, told]: readonly [CallSpans, CallSpans],
): Tally {
  const { startMs, endMs } = lensRange(recording, lens);
  const totalUs = new Float64Array(nodes.length);
  const calledUs = new Float64Array(nodes.length);
  const counts = new Uint32Array(nodes.length);
  const seen = new Uint32Array(nodes.length);
  const shortestUs = new Float64Array(nodes.length).fill(Infinity);
  const longestUs = new Float64Array(nodes.length);
  const parents = Int32Array.from({ length: nodes.length }, (_, node) => nodes.parentOf(node));
  const columns = { parents, totalUs, calledUs, shortestUs, longestUs };
  const range = { startUs: startMs * 1000, endUs: endMs * 1000, minUs: lens.minMs * 1000 };
  const sumsOf = (spans: CallSpans) => stackSums(spans, recording.stacks.length, range);
  addSums(sumsOf(exact), opens, { ...columns, hits: counts });
  addSums(sumsOf(told), opens, { ...columns, hits: seen });
  const inMs = (us: Float64Array) => us.map((value) => value / 1000);
  return {
    nodes,
    totalMs: inMs(totalUs),
    selfMs: totalUs.map((us, node) => (us - calledUs[node]!) / 1000),
    counts,
    seen,
    shortestMs: inMs(shortestUs),
    longestMs: inMs(longestUs),
    rangeMs: Math.max(0, endMs - startMs),
  };
}
