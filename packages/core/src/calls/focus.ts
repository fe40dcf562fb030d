import { NO_STACK } from '../format/packed-samples';
import type { Recording } from '../recording/recording';
import type { Lens } from './lens';
import { tallyCalls } from './tally';

/** A function beside the one in focus, and the time they share. Milliseconds. */
export interface Neighbour {
  readonly functionId: number;
  readonly totalMs: number;
  /** Exact calls. */
  readonly count: number;
}

/** One function with who called it directly and what it called directly. */
export interface Focus {
  readonly functionId: number;
  readonly callers: readonly Neighbour[];
  readonly callees: readonly Neighbour[];
}

/** @param functionId a canonical id, as the tables of calls give them */
export function focusOn(recording: Recording, lens: Lens, functionId: number): Focus {
  const { nodes, totalMs, counts } = tallyCalls(recording, { ...lens, focus: [] });
  const callers = new Map<number, Neighbour>();
  const callees = new Map<number, Neighbour>();
  const add = (to: Map<number, Neighbour>, id: number, node: number) => {
    const before = to.get(id) ?? { functionId: id, totalMs: 0, count: 0 };
    to.set(id, {
      functionId: id,
      totalMs: before.totalMs + totalMs[node]!,
      count: before.count + counts[node]!,
    });
  };
  for (let node = 0; node < nodes.length; node++) {
    if (totalMs[node] === 0 && counts[node] === 0) continue;
    const parent = nodes.parentOf(node);
    if (parent === NO_STACK) continue;
    if (nodes.functionOf(node) === functionId) add(callers, nodes.functionOf(parent), node);
    if (nodes.functionOf(parent) === functionId) add(callees, nodes.functionOf(node), node);
  }
  const listed = (map: Map<number, Neighbour>) => [...map.values()].sort((a, b) => b.totalMs - a.totalMs);
  return { functionId, callers: listed(callers), callees: listed(callees) };
}
