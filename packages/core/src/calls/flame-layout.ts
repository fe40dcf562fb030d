import { displayName } from '../recording/functions';
import type { Recording } from '../recording/recording';
import type { CallNode, CallTree } from './call-tree';
import { layLevels } from './flame-levels';

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
  layLevels(
    arranged(recording, top, order),
    ({ totalMs }) => totalMs / allMs,
    least,
    ({ node }) => arranged(recording, tree.children(node), order),
    ({ node, functionId, totalMs, selfMs }, left, width, depth) =>
      boxes.push({ node, functionId, left, width, depth, totalMs, selfMs }),
  );
  return boxes;
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
