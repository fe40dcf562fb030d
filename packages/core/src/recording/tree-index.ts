import { NO_STACK } from '../format/packed-samples';
import type { StackTable } from './stack-table';
import { known } from '../lists/items';

/** The nodes of a table of stacks as a tree, from callers to what they called. */
export interface TreeIndex {
  /** First child of each node, or NO_STACK; children are in the order of their numbers. */
  readonly firstChild: Int32Array;
  readonly nextSibling: Int32Array;
  readonly roots: readonly number[];
}

/** @param shown whether a node is in the tree; those below one that is not must not be either */
export function treeIndex(nodes: StackTable, shown: (node: number) => boolean = () => true): TreeIndex {
  const firstChild = new Int32Array(nodes.length).fill(NO_STACK);
  const nextSibling = new Int32Array(nodes.length).fill(NO_STACK);
  const roots: number[] = [];
  for (let node = nodes.length - 1; node >= 0; node--) {
    if (!shown(node)) continue;
    const parent = nodes.parentOf(node);
    if (parent === NO_STACK) {
      roots.push(node);
      continue;
    }
    nextSibling[node] = firstChild[parent]!;
    firstChild[parent] = node;
  }
  return { firstChild, nextSibling, roots };
}

/**
 * For each node 1 where no other node above it is of the same function. No recursion: trees may be very deep.
 * @param functionOf function of a node, where not the one it was added with
 */
export function outermostOfFunction(
  nodes: StackTable,
  functionOf: (node: number) => number = (node) => nodes.functionOf(node),
): Uint8Array {
  const { firstChild, nextSibling, roots } = treeIndex(nodes);
  const outermost = new Uint8Array(nodes.length);
  const around = new Map<number, number>();
  const path: number[] = [];
  const enter = (node: number) => {
    const functionId = functionOf(node);
    const count = around.get(functionId) ?? 0;
    if (count === 0) outermost[node] = 1;
    around.set(functionId, count + 1);
    path.push(node);
  };
  for (const root of roots) {
    enter(root);
    let next = firstChild[root]!;
    while (path.length > 0) {
      if (next !== NO_STACK) {
        enter(next);
        next = firstChild[next]!;
        continue;
      }
      const done = path.pop()!;
      const functionId = functionOf(done);
      around.set(functionId, known(around, functionId) - 1);
      next = path.length > 0 ? nextSibling[done]! : NO_STACK;
    }
  }
  return outermost;
}
