import { NO_STACK } from '../format/packed-samples';
import type { StackTable } from '../recording/recording';

/** What a sample inside known script stands for. */
export interface FilledSample {
  readonly stack: number;
  /** Whether the sample saw this stack, or it is concluded from its neighbours. */
  readonly seen: boolean;
}

/** The stack of the outermost caller alone. */
function rootOf(stacks: StackTable, stack: number): number {
  let at = stack;
  while (stacks.parentOf(at) !== NO_STACK) at = stacks.parentOf(at);
  return at;
}

/**
 * Fills samples without a stack inside known script. Engines lose the stack when they replace a function's code
 * by a faster one while it runs, and find it again when that function returns; so such a sample is taken for
 * the one seen before it. Before the first, only the function entered is known.
 * @param sampled stacks in order of time, NO_STACK for a missing one
 * @returns as many, or undefined when not one sample has a stack
 */
export function fillUnseen(stacks: StackTable, sampled: readonly number[]): FilledSample[] | undefined {
  const first = sampled.find((stack) => stack !== NO_STACK);
  if (first === undefined) return undefined;
  let last = rootOf(stacks, first);
  return sampled.map((stack) => {
    const seen = stack !== NO_STACK;
    if (seen) last = stack;
    return { stack: last, seen };
  });
}
