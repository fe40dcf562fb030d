import { NO_STACK } from '../format/packed-samples';
import { ownerOf } from '../recording/functions';
import { memoizedPerRecording } from '../recording/memoize';
import { KIND_CODES, kindCode } from './segments';

/** What the innermost function of each stack does, as exact calls tell it. */
export interface StackCodes {
  /** Kind code of the innermost function. */
  readonly own: Uint8Array;
  /** That of its caller; KIND_CODES where there is none. */
  readonly caller: Uint8Array;
}

/** The codes of all stacks there are when this is first asked; exact calls have no others. */
export const stackCodes = memoizedPerRecording(({ stacks, functions }): StackCodes => {
  const own = new Uint8Array(stacks.length);
  const caller = new Uint8Array(stacks.length).fill(KIND_CODES);
  for (let stack = 0; stack < stacks.length; stack++) {
    const recorded = functions.get(stacks.functionOf(stack));
    const certainty = recorded?.every === undefined ? 'measured' : 'sampled';
    own[stack] = kindCode(recorded?.activity ?? 'script', ownerOf(recorded), certainty);
    const parent = stacks.parentOf(stack);
    if (parent !== NO_STACK) caller[stack] = own[parent]!;
  }
  return { own, caller };
});
