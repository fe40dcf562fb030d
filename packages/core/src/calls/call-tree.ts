import { NO_STACK } from '../format/packed-samples';
import type { Recording } from '../recording/recording';
import type { Lens } from './lens';
import { tallyCalls, type Tally } from './tally';
import { treeIndex, type TreeIndex } from '../recording/tree-index';

/** One line of a tree of calls. Times are milliseconds. */
export interface CallNode {
  /** Number of the node in its tree. */
  readonly node: number;
  readonly functionId: number;
  readonly totalMs: number;
  readonly selfMs: number;
  /** Exact calls; 0 where only samples tell. */
  readonly count: number;
  readonly hasChildren: boolean;
}

/** Calls from the outermost inwards: who called what, with what everything took. */
export class CallTree {
  readonly #index: TreeIndex;

  constructor(readonly tally: Tally) {
    this.#index = treeIndex(tally.nodes, (node) => tally.totalMs[node] !== 0);
  }

  /** Time of all calls together. */
  get totalMs(): number {
    return this.#index.roots.reduce((sum, node) => sum + this.tally.totalMs[node]!, 0);
  }

  /** Calls that nothing called, the dearest first. */
  roots(): CallNode[] {
    return this.#listed(this.#index.roots);
  }

  /** What a node called, the dearest first. */
  children(node: number): CallNode[] {
    const children: number[] = [];
    for (let at = this.#index.firstChild[node]!; at !== NO_STACK; at = this.#index.nextSibling[at]!)
      children.push(at);
    return this.#listed(children);
  }

  /** Nodes from the dearest of the outermost down, as long as the dearest callee takes more than the caller itself. */
  dearestPath(): CallNode[] {
    const path: CallNode[] = [];
    for (let at = this.roots()[0]; at !== undefined;) {
      path.push(at);
      const [callee]: CallNode[] = this.children(at.node);
      at = callee !== undefined && callee.totalMs > at.selfMs ? callee : undefined;
    }
    return path;
  }

  /** Nodes from the outermost down to one. */
  pathOf(node: number): number[] {
    const path = [];
    for (let at = node; at !== NO_STACK; at = this.tally.nodes.parentOf(at)) path.push(at);
    return path.reverse();
  }

  /**
   * Nodes whose function matches, and all that lead to them.
   * @returns the share of the time of all calls that the matching ones took, each moment counted once
   */
  search(matches: (functionId: number) => boolean): { hits: Set<number>; leads: Set<number>; share: number } {
    const { nodes, totalMs } = this.tally;
    const hits = new Set<number>();
    const leads = new Set<number>();
    const within = new Uint8Array(nodes.length);
    let hitMs = 0;
    for (let node = 0; node < nodes.length; node++) {
      const parent = nodes.parentOf(node);
      const isInside = parent !== NO_STACK && within[parent] === 1;
      const isHit = totalMs[node]! > 0 && matches(nodes.functionOf(node));
      if (isInside || isHit) within[node] = 1;
      if (!isHit) continue;
      if (!isInside) hitMs += totalMs[node]!;
      hits.add(node);
      for (let at = node; at !== NO_STACK && !leads.has(at); at = nodes.parentOf(at)) leads.add(at);
    }
    const allMs = this.totalMs;
    return { hits, leads, share: allMs === 0 ? 0 : hitMs / allMs };
  }

  #listed(list: readonly number[]): CallNode[] {
    const { nodes, totalMs, selfMs, counts } = this.tally;
    return list
      .map((node) => ({
        node,
        functionId: nodes.functionOf(node),
        totalMs: totalMs[node]!,
        selfMs: selfMs[node]!,
        count: counts[node]!,
        hasChildren: this.#index.firstChild[node] !== NO_STACK,
      }))
      .sort((a, b) => b.totalMs - a.totalMs || a.node - b.node);
  }
}

export function callTree(recording: Recording, lens: Lens): CallTree {
  return new CallTree(tallyCalls(recording, lens));
}
