import { NO_STACK } from '../format/packed-samples';
import { ownerOf } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { StackTable } from '../recording/stack-table';
import { canonicalIds } from './canonical-stacks';
import type { Lens } from './lens';

/** Stands for a stack that the lens does not show. */
export const HIDDEN = -1;

/**
 * What a lens makes of each stack: the node of the folded call tree its time belongs to, and whether a call with this
 * stack is a step of its own there: folding recursion charges a call to the same function around it, however many
 * others are between. A node is a stack of canonical functions in a table of its own.
 */
export interface LensNodes {
  readonly nodes: StackTable;
  /** Node that the time of each stack belongs to; HIDDEN where the lens does not show it. */
  readonly nodeOf: Int32Array;
  /** Node that a call with each stack opens; HIDDEN where the lens does not show it, or charges it to another. */
  readonly opens: Int32Array;
}

/** Works out a lens for all stacks of a recording, callers before what they call. */
export function lensNodes(recording: Recording, lens: Lens): LensNodes {
  const { stacks } = recording;
  const canonical = canonicalIds(recording);
  const nodes = new StackTable();
  const nodeOf = new Int32Array(stacks.length).fill(HIDDEN);
  const opens = new Int32Array(stacks.length).fill(HIDDEN);
  const inFocus = new Uint8Array(stacks.length);
  const focus = new Set(lens.focus.map((functionId) => canonical(functionId)));
  const isOther = new Map<number, boolean>();
  const isScript = (functionId: number) => recording.functions.get(functionId)?.activity === undefined;
  const foldable = (functionId: number) => {
    let is = isOther.get(functionId);
    if (is === undefined) {
      const recorded = recording.functions.get(functionId);
      is = recorded?.activity === undefined && ownerOf(recorded) !== 'own';
      isOther.set(functionId, is);
    }
    return is;
  };
  /** The node that a call from another is folded into; NO_STACK where it is a step of its own. */
  const foldsInto = (above: number, functionId: number): number => {
    if (lens.foldLibraries && foldable(functionId) && isScript(nodes.functionOf(above))) return above;
    if (!lens.foldRecursion) return NO_STACK;
    let at = above;
    while (at !== NO_STACK && nodes.functionOf(at) !== functionId) at = nodes.parentOf(at);
    return at;
  };
  for (let stack = 0; stack < stacks.length; stack++) {
    const functionId = canonical(stacks.functionOf(stack));
    const caller = stacks.parentOf(stack);
    const isFocused = (caller !== NO_STACK && inFocus[caller] === 1) || focus.has(functionId);
    if (isFocused) inFocus[stack] = 1;
    if (focus.size > 0 && !isFocused) continue;
    const above = caller === NO_STACK || nodeOf[caller] === HIDDEN ? NO_STACK : nodeOf[caller]!;
    const into = above === NO_STACK ? NO_STACK : foldsInto(above, functionId);
    const node = into === NO_STACK ? nodes.calledFrom(above, functionId) : into;
    nodeOf[stack] = node;
    if (into === NO_STACK) opens[stack] = node;
  }
  return { nodes, nodeOf, opens };
}
