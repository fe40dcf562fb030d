import type { CallSpans } from '../recording/call-spans';
import type { Recording } from '../recording/recording';
import type { StackTable } from '../recording/stack-table';
import { callLogOf } from './call-log';
import { lensRange, type Lens } from './lens';
import { lensNodes, type LensNodes } from './lens-nodes';

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
  readonly opens: Int32Array;
  readonly parents: Int32Array;
  readonly totalUs: Float64Array;
  readonly calledUs: Float64Array;
  readonly shortestUs: Float64Array;
  readonly longestUs: Float64Array;
  readonly hits: Uint32Array;
}

/** Adds spans to the columns. The loop is plain: it runs over every call of a recording. */
function addSpans(
  spans: CallSpans,
  range: { readonly startUs: number; readonly endUs: number; readonly minUs: number },
  { opens, parents, totalUs, calledUs, shortestUs, longestUs, hits }: TallyColumns,
): void {
  const { startsUs, endsUs, stacks } = spans;
  const { startUs: rangeStartUs, endUs: rangeEndUs, minUs } = range;
  const open = spans.openAt(rangeStartUs);
  const first = spans.firstFrom(rangeStartUs);
  const last = spans.firstFrom(rangeEndUs);
  for (let at = first - open.length; at < last; at++) {
    const index = at < first ? open[at - first + open.length]! : at;
    const node = opens[stacks[index]!]!;
    if (node < 0) continue;
    const startUs = startsUs[index]!;
    const endUs = endsUs[index]!;
    const wholeUs = endUs - startUs;
    if (wholeUs < minUs) continue;
    const fromUs = startUs > rangeStartUs ? startUs : rangeStartUs;
    const toUs = endUs < rangeEndUs ? endUs : rangeEndUs;
    const lengthUs = toUs - fromUs;
    totalUs[node] = totalUs[node]! + lengthUs;
    const parent = parents[node]!;
    if (parent >= 0) calledUs[parent] = calledUs[parent]! + lengthUs;
    hits[node] = hits[node]! + 1;
    if (wholeUs < shortestUs[node]!) shortestUs[node] = wholeUs;
    if (wholeUs > longestUs[node]!) longestUs[node] = wholeUs;
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
  const columns = { opens, parents, totalUs, calledUs, shortestUs, longestUs };
  const range = { startUs: startMs * 1000, endUs: endMs * 1000, minUs: lens.minMs * 1000 };
  addSpans(exact, range, { ...columns, hits: counts });
  addSpans(told, range, { ...columns, hits: seen });
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
