import { NO_STACK } from '../format/packed-samples';
import { displayName, ownerOf } from '../recording/functions';
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
  /** Node of each stack of the recording, or HIDDEN. */
  readonly nodeOf: Int32Array;
  /** The same where a call opens its node, HIDDEN where it is charged to its caller's. */
  readonly opens: Int32Array;
  /** Node of the caller of each node, or NO_STACK. */
  parentOf(node: number): number;
}

type Matcher = (functionId: number) => boolean;

function matcherOf(recording: Recording, text: string): Matcher | undefined {
  if (text === '') return undefined;
  const wanted = text.toLowerCase();
  return (functionId) => {
    const recorded = recording.functions.get(functionId);
    const file = recorded?.originalFile ?? recording.sources.get(recorded?.source ?? -1)?.url ?? '';
    return displayName(recorded).toLowerCase().includes(wanted) || file.toLowerCase().includes(wanted);
  };
}

/** Works out a lens for all stacks of a recording, callers before what they call. */
export function lensNodes(recording: Recording, lens: Lens): LensNodes {
  const { stacks } = recording;
  const canonical = canonicalIds(recording);
  const nodes = new StackTable();
  const nodeOf = new Int32Array(stacks.length).fill(HIDDEN);
  const opens = new Int32Array(stacks.length).fill(HIDDEN);
  const inFocus = new Uint8Array(stacks.length);
  const focus = lens.focus === undefined ? undefined : canonical(lens.focus);
  const isOther = new Map<number, boolean>();
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
    const above = caller === NO_STACK || nodeOf[caller] === HIDDEN ? NO_STACK : nodeOf[caller]!;
    const folds =
      above !== NO_STACK &&
      ((lens.foldLibraries && foldable(functionId)) ||
        (lens.foldRecursion && nodes.functionOf(above) === functionId));
    const node = folds ? above : nodes.calledFrom(above, functionId);
    nodeOf[stack] = node;
    if (!folds) opens[stack] = node;
  }
  const matches = matcherOf(recording, lens.text);
  if (matches !== undefined) hideUnmatched(nodes, matches, nodeOf, opens);
  return { nodes, nodeOf, opens, parentOf: (node) => nodes.parentOf(node) };
}

/** Hides nodes on whose path no function matches and below which none does. */
function hideUnmatched(nodes: StackTable, matches: Matcher, nodeOf: Int32Array, opens: Int32Array): void {
  const keeps = new Uint8Array(nodes.length);
  for (let node = 0; node < nodes.length; node++) {
    const parent = nodes.parentOf(node);
    if ((parent !== NO_STACK && keeps[parent] === 1) || matches(nodes.functionOf(node))) keeps[node] = 1;
  }
  const leads = keeps.slice();
  for (let node = nodes.length - 1; node >= 0; node--) {
    const parent = nodes.parentOf(node);
    if (leads[node] === 1 && parent !== NO_STACK) leads[parent] = 1;
  }
  for (let stack = 0; stack < nodeOf.length; stack++) {
    if (nodeOf[stack] !== HIDDEN && leads[nodeOf[stack]!] === 0) nodeOf[stack] = HIDDEN;
    if (opens[stack] !== HIDDEN && leads[opens[stack]!] === 0) opens[stack] = HIDDEN;
  }
}
