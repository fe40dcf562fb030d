import { NO_STACK } from '../format/packed-samples';
import { memoizedPerThread } from '../recording/memoize';
import { callsOf } from '../recording/recording';
import type { StackTable } from '../recording/stack-table';

/** Calls of a quick function that were not timed, by the stack of those that were. */
export interface UntimedCalls {
  readonly stack: number;
  /** Of the time that their caller seems to have taken itself, what these took: 0 to 1. */
  readonly share: number;
  /** Calls that each timed one stands for, itself included. */
  readonly every: number;
}

/** Time by stack without that of the stacks that were called from it. @param totals by stack */
export function withoutCalled(stacks: StackTable, totals: Float64Array): Float64Array {
  const own = totals.slice();
  for (let stack = 0; stack < totals.length; stack++) {
    const caller = stacks.parentOf(stack);
    if (caller !== NO_STACK) own[caller]! -= totals[stack]!;
  }
  return own;
}

/**
 * What calls of quick functions took of which only one of many was timed, by the stack of their caller: as many times as
 * long as those that were, without the clock that was read in them, and no more than there is.
 */
export const untimedCalls = memoizedPerThread(
  (recording, thread): ReadonlyMap<number, readonly UntimedCalls[]> => {
    const { functions, stacks, header } = recording;
    const byCaller = new Map<number, UntimedCalls[]>();
    if (![...functions.values()].some(({ every }) => every !== undefined)) return byCaller;
    const calls = callsOf(recording, thread);
    const totalUs = new Float64Array(stacks.length);
    const hits = new Float64Array(stacks.length);
    calls.stacks.forEach((stack, at) => {
      totalUs[stack]! += calls.endsUs[at]! - calls.startsUs[at]!;
      hits[stack]!++;
    });
    const selfUs = withoutCalled(stacks, totalUs);
    const readUs = (header.clockReadMs ?? 0) * 1000;
    for (let stack = 0; stack < stacks.length; stack++) {
      const caller = stacks.parentOf(stack);
      const every = functions.get(stacks.functionOf(stack))?.every;
      if (every === undefined || hits[stack] === 0 || caller === NO_STACK || selfUs[caller]! <= 0) continue;
      const us = (every - 1) * Math.max(0, totalUs[stack]! - hits[stack]! * readUs);
      const others = byCaller.get(caller) ?? [];
      byCaller.set(caller, [...others, { stack, share: us / selfUs[caller]!, every }]);
    }
    for (const [caller, untimed] of byCaller) {
      const sum = untimed.reduce((total, { share }) => total + share, 0);
      if (sum > 1)
        byCaller.set(
          caller,
          untimed.map((one) => ({ ...one, share: one.share / sum })),
        );
    }
    return byCaller;
  },
);
