import { NO_STACK } from '../format/packed-samples';
import type { CallSpans } from '../recording/call-spans';
import type { Recording } from '../recording/recording';
import type { StackTable } from '../recording/stack-table';
import { callLogOf } from './call-log';
import { lensRange, type Lens } from './lens';
import { HIDDEN, lensNodes, type LensNodes } from './lens-nodes';

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
  /** Shortest and longest exact call. */
  readonly shortestMs: Float64Array;
  readonly longestMs: Float64Array;
  /** Length of the range the lens shows. */
  readonly rangeMs: number;
}

/** Calls each span of a set that overlaps a range, with its times cut to it. Microseconds. */
export function eachSpan(
  spans: CallSpans,
  startUs: number,
  endUs: number,
  visit: (index: number, fromUs: number, toUs: number) => void,
): void {
  const { startsUs, endsUs } = spans;
  for (const index of spans.openAt(startUs)) visit(index, startUs, Math.min(endsUs[index]!, endUs));
  const last = spans.firstFrom(endUs);
  for (let index = spans.firstFrom(startUs); index < last; index++) {
    const toUs = endsUs[index]!;
    visit(index, startsUs[index]!, toUs < endUs ? toUs : endUs);
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
  const selfUs = new Float64Array(nodes.length);
  const counts = new Uint32Array(nodes.length);
  const seen = new Uint32Array(nodes.length);
  const shortestUs = new Float64Array(nodes.length).fill(Infinity);
  const longestUs = new Float64Array(nodes.length);
  const parents = Int32Array.from({ length: nodes.length }, (_, node) => nodes.parentOf(node));
  const minUs = lens.minMs * 1000;
  const add = (spans: CallSpans, hits: Uint32Array, isExact: boolean) => {
    const { startsUs, endsUs, stacks } = spans;
    eachSpan(spans, startMs * 1000, endMs * 1000, (index, fromUs, toUs) => {
      const node = opens[stacks[index]!]!;
      if (node === HIDDEN) return;
      const wholeUs = endsUs[index]! - startsUs[index]!;
      if (wholeUs < minUs) return;
      const lengthUs = toUs - fromUs;
      totalUs[node]! += lengthUs;
      selfUs[node]! += lengthUs;
      const parent = parents[node]!;
      if (parent !== NO_STACK) selfUs[parent]! -= lengthUs;
      hits[node]!++;
      if (!isExact) return;
      if (wholeUs < shortestUs[node]!) shortestUs[node] = wholeUs;
      if (wholeUs > longestUs[node]!) longestUs[node] = wholeUs;
    });
  };
  add(exact, counts, true);
  add(told, seen, false);
  const inMs = (us: Float64Array) => us.map((value) => value / 1000);
  return {
    nodes,
    totalMs: inMs(totalUs),
    selfMs: inMs(selfUs),
    counts,
    seen,
    shortestMs: inMs(shortestUs),
    longestMs: inMs(longestUs),
    rangeMs: Math.max(0, endMs - startMs),
  };
}
