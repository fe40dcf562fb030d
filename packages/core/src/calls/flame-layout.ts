import { displayName } from '../recording/functions';
import type { Recording } from '../recording/recording';
import type { CallNode, CallTree } from './call-tree';

export type FlameOrder = 'weight' | 'name';

/** A box of the flame graph: shares of the whole width from 0 to 1, and the depth from 0. */
export interface FlameBox {
  readonly node: number;
  readonly functionId: number;
  readonly left: number;
  readonly width: number;
  readonly depth: number;
  readonly totalMs: number;
  readonly selfMs: number;
}

/**
 * Lays the calls out as a flame graph: each box as wide as its time, callees under their caller. Boxes narrower than
 * the least are left out with all below them, so the work depends on what can be seen.
 * @param least smallest width of a box, as a share of the whole
 * @param root node to stretch over the whole width; absent for all calls
 */
export function flameLayout(
  recording: Recording,
  tree: CallTree,
  order: FlameOrder,
  least: number,
  root?: number,
): FlameBox[] {
  const boxes: FlameBox[] = [];
  const top = root === undefined ? tree.roots() : [nodeOf(tree, root)];
  const allMs = top.reduce((sum, { totalMs }) => sum + totalMs, 0);
  if (allMs === 0) return boxes;
  let rows: readonly FlameRow[] = [{ nodes: top, left: 0 }];
  for (let depth = 0; rows.length > 0; depth++) {
    const below: FlameRow[] = [];
    for (const { nodes, left } of rows) {
      let at = left;
      for (const { node, functionId, totalMs, selfMs } of arranged(recording, nodes, order)) {
        const width = totalMs / allMs;
        if (width >= least) {
          boxes.push({ node, functionId, left: at, width, depth, totalMs, selfMs });
          below.push({ nodes: tree.children(node), left: at });
        }
        at += width;
      }
    }
    rows = below;
  }
  return boxes;
}

/** What one function called, from where the first of it stands. */
interface FlameRow {
  readonly nodes: readonly CallNode[];
  readonly left: number;
}

function nodeOf({ tally }: CallTree, node: number): CallNode {
  const { nodes, totalMs, selfMs, counts } = tally;
  return {
    node,
    functionId: nodes.functionOf(node),
    totalMs: totalMs[node]!,
    selfMs: selfMs[node]!,
    count: counts[node]!,
    hasChildren: true,
  };
}

function arranged(recording: Recording, nodes: readonly CallNode[], order: FlameOrder): readonly CallNode[] {
  if (order === 'weight') return nodes;
  const nameOf = ({ functionId }: CallNode) => displayName(recording.functions.get(functionId));
  return [...nodes].sort((a, b) =>
    nameOf(a) < nameOf(b) ? -1 : nameOf(a) > nameOf(b) ? 1 : a.node - b.node,
  );
}
