import { callTree, type CallNode, type CallTree } from '../calls/call-tree';
import { WIDE_LENS, type Lens } from '../calls/lens';
import { displayName, displayPlace, ownerOf, type Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { functionKeys } from './function-identity';
import { layLevels } from '../calls/flame-levels';
import { known } from '../lists/items';

/** One path of calls in both recordings: shares of the whole width from 0 to 1, and the depth from 0. */
export interface DifferenceBox {
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  /** As wide as what it took in both recordings together, so that what is called never is wider than its caller. */
  readonly left: number;
  readonly width: number;
  readonly depth: number;
  /** Time on this path in either recording. Milliseconds. */
  readonly beforeMs: number;
  readonly afterMs: number;
  /** The function in either recording; absent where the path is not in it. */
  readonly beforeFunction?: number;
  readonly afterFunction?: number;
}

interface Side {
  readonly recording: Recording;
  readonly tree: CallTree;
  readonly keys: ReadonlyMap<number, string>;
}

function sideOf(recording: Recording, lens: Lens): Side {
  const tree = callTree(recording, lens);
  const { nodes } = tree.tally;
  const ids = new Set(Array.from({ length: nodes.length }, (_, node) => nodes.functionOf(node)));
  return { recording, tree, keys: functionKeys(recording, [...ids]) };
}

/** The same function on the same path, in either recording or both. */
interface Pair {
  readonly before: CallNode[];
  readonly after: CallNode[];
}

const totalOf = (nodes: readonly CallNode[]) => nodes.reduce((sum, { totalMs }) => sum + totalMs, 0);
const bothOf = ({ before, after }: Pair) => totalOf(before) + totalOf(after);

/**
 * Lays the calls of two recordings on each other as one flame graph: paths that are the same in both are one box.
 * Boxes narrower than the least are left out with all below them.
 * @param least smallest width of a box, as a share of the whole
 */
export function flameDifference(
  before: Recording,
  after: Recording,
  least: number,
  lens: Lens = WIDE_LENS,
): DifferenceBox[] {
  const [was, is] = [sideOf(before, lens), sideOf(after, lens)];
  const boxes: DifferenceBox[] = [];

  const pairs = (ofBefore: readonly CallNode[], ofAfter: readonly CallNode[]): Pair[] => {
    const byKey = new Map<string, Pair>();
    const add = (side: Side, nodes: readonly CallNode[], part: keyof Pair) => {
      for (const node of nodes) {
        const key = known(side.keys, node.functionId);
        let pair = byKey.get(key);
        if (pair === undefined) byKey.set(key, (pair = { before: [], after: [] }));
        pair[part].push(node);
      }
    };
    add(was, ofBefore, 'before');
    add(is, ofAfter, 'after');
    return [...byKey.values()].sort((a, b) => bothOf(b) - bothOf(a));
  };
  const childrenOf = ({ tree }: Side, nodes: readonly CallNode[]) =>
    nodes.flatMap(({ node, hasChildren }) => (hasChildren ? tree.children(node) : []));

  const top = pairs(was.tree.roots(), is.tree.roots());
  const allMs = top.reduce((sum, pair) => sum + bothOf(pair), 0);
  layLevels(
    allMs > 0 ? top : [],
    (pair) => bothOf(pair) / allMs,
    least,
    (pair) => pairs(childrenOf(was, pair.before), childrenOf(is, pair.after)),
    (pair, left, width, depth) => boxes.push({ ...named(pair, was, is), left, width, depth }),
  );
  return boxes;
}

function named(
  { before, after }: Pair,
  was: Side,
  is: Side,
): Omit<DifferenceBox, 'left' | 'width' | 'depth'> {
  const { recording } = after.length > 0 ? is : was;
  const recorded = recording.functions.get((after[0] ?? before[0])!.functionId);
  return {
    name: displayName(recorded),
    place: displayPlace(recorded, recording.sources.get(recorded?.source ?? -1)),
    owner: ownerOf(recorded),
    beforeMs: totalOf(before),
    afterMs: totalOf(after),
    ...(before[0] === undefined ? {} : { beforeFunction: before[0].functionId }),
    ...(after[0] === undefined ? {} : { afterFunction: after[0].functionId }),
  };
}
