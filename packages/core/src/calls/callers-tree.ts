import { NO_STACK } from '../format/packed-samples';
import type { Recording } from '../recording/recording';
import type { Lens } from './lens';
import { tallyCalls, type Tally } from './tally';

/** One line of a tree of callers: a function, and the self time of the root spent on the paths through it. */
export interface CallerNode {
  readonly functionId: number;
  /** Self time of the root's function when called this way. Milliseconds. */
  readonly selfMs: number;
  /** Exact calls of the root's function on these paths. */
  readonly count: number;
  readonly hasChildren: boolean;
  /** Pass it to `callers` to go one step further out. */
  readonly cursors: readonly Cursor[];
}

/** A node of the tally whose self time is meant, and how far out on its path the line stands. */
interface Cursor {
  readonly node: number;
  readonly at: number;
}

/** Functions by their self time, each with who called it, step by step outwards. */
export class CallersTree {
  constructor(private readonly tally: Tally) {}

  /** All functions with time of their own, the dearest first. */
  roots(): CallerNode[] {
    const { nodes, totalMs } = this.tally;
    const cursors: Cursor[] = [];
    for (let node = 0; node < nodes.length; node++) if (totalMs[node]! > 0) cursors.push({ node, at: node });
    return this.#grouped(cursors);
  }

  /** Who called, one step further out. */
  callers({ cursors }: CallerNode): CallerNode[] {
    const outwards = cursors.map(({ node, at }) => ({ node, at: this.tally.nodes.parentOf(at) }));
    return this.#grouped(outwards.filter(({ at }) => at !== NO_STACK));
  }

  #grouped(cursors: readonly Cursor[]): CallerNode[] {
    const { nodes, selfMs, counts } = this.tally;
    const groups = new Map<number, Cursor[]>();
    for (const cursor of cursors) {
      const functionId = nodes.functionOf(cursor.at);
      const group = groups.get(functionId);
      if (group === undefined) groups.set(functionId, [cursor]);
      else group.push(cursor);
    }
    return [...groups]
      .map(([functionId, group]) => ({
        functionId,
        selfMs: group.reduce((sum, { node }) => sum + selfMs[node]!, 0),
        count: group.reduce((sum, { node }) => sum + counts[node]!, 0),
        hasChildren: group.some(({ at }) => nodes.parentOf(at) !== NO_STACK),
        cursors: group,
      }))
      .sort((a, b) => b.selfMs - a.selfMs || a.functionId - b.functionId);
  }
}

export function callersTree(recording: Recording, lens: Lens): CallersTree {
  return new CallersTree(tallyCalls(recording, lens));
}
