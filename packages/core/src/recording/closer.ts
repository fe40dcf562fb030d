import { NO_STACK } from '../format/packed-samples';
import { memoizedPerRecording } from './memoize';

/** Which calls of a recording in fine mode were recorded exactly, as one function was looked at closer. */
export interface Closer {
  /** Ids of that function: it may have been loaded more than once. */
  readonly functions: ReadonlySet<number>;
  /** Whether a stack is one of its calls, or of what they called; others stand around them as callers only. */
  isWithin(stack: number): boolean;
}

/** @returns undefined where no function was looked at closer */
export const closerOf = memoizedPerRecording(({ functions, stacks }): Closer | undefined => {
  const ids = new Set([...functions.values()].filter(({ closer }) => closer === true).map(({ id }) => id));
  if (ids.size === 0) return undefined;
  const known = new Map<number, boolean>([[NO_STACK, false]]);
  const isWithin = (stack: number): boolean => {
    const path: number[] = [];
    let at = stack;
    for (; !known.has(at); at = stacks.parentOf(at)) path.push(at);
    let is = known.get(at)!;
    for (const one of path.reverse()) known.set(one, (is ||= ids.has(stacks.functionOf(one))));
    return is;
  };
  return { functions: ids, isWithin };
});
