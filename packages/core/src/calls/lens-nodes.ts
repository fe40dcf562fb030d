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
 * stack is a step of its own there. A node is a stack of canonical functions in a table of its own.
 */
export interface LensNodes {
  readonly nodes: StackTable;
  /** Node that a call with each stack opens; HIDDEN where the lens does not show it, or charges it to its caller. */
  readonly opens: Int32Array;
}

/** Works out a lens for all stacks of a recording, callers before what they call. */
export function lensNodes(recording: Recording, lens: Lens): LensNodes {
  const { stacks } = recording;
  const canonical = canonicalIds(recording);
  const nodes = new StackTable();
  const nodeOf = new Int32Array(stacks.length).fill(NO_STACK);
  const opens = new Int32Array(stacks.length).fill(HIDDEN);
  const inFocus = new Uint8Array(stacks.length);
  const focus = lens.focus === undefined ? undefined : canonical(lens.focus);
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
  for (let stack = 0; stack < stacks.length; stack++) {
    const functionId = canonical(stacks.functionOf(stack));
    const caller = stacks.parentOf(stack);
    const isFocused = (caller !== NO_STACK && inFocus[caller] === 1) || functionId === focus;
    if (isFocused) inFocus[stack] = 1;
    if (focus !== undefined && !isFocused) continue;
    const above = caller === NO_STACK ? NO_STACK : nodeOf[caller]!;
    const folds =
      above !== NO_STACK &&
      ((lens.foldLibraries && foldable(functionId) && isScript(nodes.functionOf(above))) ||
        (lens.foldRecursion && nodes.functionOf(above) === functionId));
    const node = folds ? above : nodes.calledFrom(above, functionId);
    nodeOf[stack] = node;
    if (!folds) opens[stack] = node;
  }
  return { nodes, opens };
}
