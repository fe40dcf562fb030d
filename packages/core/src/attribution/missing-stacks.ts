import { NO_STACK } from '../format/packed-samples';
import type { StackTable } from '../recording/stack-table';

/** What a sample inside known script stands for. */
export interface FilledSample {
  readonly stack: number;
  /** Whether the sample saw this stack, or it is concluded from its neighbours. */
  readonly seen: boolean;
}

/** Whether a stack is another, or what that one was called from. */
function isWithin(stacks: StackTable, outer: number, stack: number): boolean {
  for (let at = stack; at !== NO_STACK; at = stacks.parentOf(at)) if (at === outer) return true;
  return false;
}

/**
 * What a thread was in between two looks, where it was not seen. Engines lose the stack when they replace a
 * function's code by a faster one while it runs, which they do to functions that run long: so where one stack was
 * called from the other, it is taken to have been in the inner one, and else to have stayed where it was; before the
 * first look nothing is known but the outermost function.
 */
function between(stacks: StackTable, before: number | undefined, after: number | undefined): number {
  if (before === undefined) return outermostOf(stacks, after!);
  return after !== undefined && isWithin(stacks, before, after) ? after : before;
}

/** What ran before a stack was first seen is known only as far as its outermost function. */
function outermostOf(stacks: StackTable, stack: number): number {
  let at = stack;
  while (stacks.parentOf(at) !== NO_STACK) at = stacks.parentOf(at);
  return at;
}

/**
 * Fills samples without a stack inside known script from those seen around them.
 * @param sampled stacks in order of time, NO_STACK for a missing one
 * @returns as many, or undefined when not one sample has a stack
 */
export function fillMissingStacks(
  stacks: StackTable,
  sampled: readonly number[],
): FilledSample[] | undefined {
  if (sampled.every((stack) => stack === NO_STACK)) return undefined;
  const after = new Array<number | undefined>(sampled.length);
  for (let at = sampled.length - 1, next: number | undefined; at >= 0; at--) {
    after[at] = next;
    if (sampled[at] !== NO_STACK) next = sampled[at];
  }
  let before: number | undefined;
  return sampled.map((stack, index) => {
    if (stack === NO_STACK) return { stack: between(stacks, before, after[index]), seen: false };
    before = stack;
    return { stack, seen: true };
  });
}
