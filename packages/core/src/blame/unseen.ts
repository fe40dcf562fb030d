import { NO_STACK } from '../format/packed-samples';
import type { StackTable } from '../recording/recording';

/** A run of samples without a stack up to this long, between equal stacks, is taken for the same stack. */
const BRIDGED_SAMPLES = 2;

/** What a sample inside known script stands for. */
export interface FilledSample {
  /** Innermost stack that is known; NO_STACK when none is. */
  readonly stack: number;
  /** Whether the innermost function was seen, or only some of its callers are known. */
  readonly seen: boolean;
}

/** The innermost stack from which both of two stacks were called; NO_STACK when they share nothing. */
export function commonCaller(stacks: StackTable, a: number, b: number): number {
  const callers = new Set<number>();
  for (let at = a; at !== NO_STACK; at = stacks.parentOf(at)) callers.add(at);
  let at = b;
  while (at !== NO_STACK && !callers.has(at)) at = stacks.parentOf(at);
  return at;
}

/**
 * Engines give no stack while some of their own functions run (such as those of Math). Inside known script such
 * samples are filled from their neighbours: a short run between equal stacks with that stack, all others with
 * no more than the callers both neighbours share.
 * @param sampled stacks in order of time, NO_STACK for a missing one
 * @returns as many, or undefined when not one sample has a stack
 */
export function fillUnseen(stacks: StackTable, sampled: readonly number[]): FilledSample[] | undefined {
  const firstSeen = sampled.findIndex((stack) => stack !== NO_STACK);
  if (firstSeen < 0) return undefined;
  const filled: FilledSample[] = [];
  for (let at = 0; at < sampled.length;) {
    if (sampled[at] !== NO_STACK) {
      filled.push({ stack: sampled[at++]!, seen: true });
      continue;
    }
    let end = at;
    while (end < sampled.length && sampled[end] === NO_STACK) end++;
    const before = sampled[at - 1] ?? sampled[end]!;
    const after = sampled[end] ?? before;
    const bridged = end - at <= BRIDGED_SAMPLES && before === after;
    const stack = bridged ? before : commonCaller(stacks, before, after);
    for (; at < end; at++) filled.push({ stack, seen: bridged });
  }
  return filled;
}
