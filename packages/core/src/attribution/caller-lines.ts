import { NO_STACK } from '../format/packed-samples';
import { samplesOf, type Recording } from '../recording/recording';
import { canonicalFunction } from './call-path';

/** For a caller within a stack with lines, and what it calls, the stack of the caller on the line at which it was seen. */
type SeenCallers = Map<string, number>;

/**
 * The lines at which the callers of exact calls stood, which know none themselves: where samples saw the same caller call
 * the same function, those close by first, and else at most moments of the thread.
 */
export class CallerLines {
  readonly #all: SeenCallers;
  #near: SeenCallers = new Map();
  /** For stacks without lines, those of their callers with lines. */
  readonly #known = new Map<number, number>();

  constructor(
    private readonly recording: Recording,
    thread: number,
  ) {
    const { stacks } = samplesOf(recording, thread);
    this.#all = this.#seenIn(stacks);
  }

  /** @param seen stacks of the samples that are close by from now on */
  moveTo(seen: Iterable<number>): void {
    this.#near = this.#seenIn(seen);
    this.#known.clear();
  }

  /** @returns the same calls, with the lines of the callers as far as samples tell them */
  of(stack: number): number {
    const { stacks } = this.recording;
    return stacks.calledFrom(this.#callersOf(stack), stacks.functionOf(stack));
  }

  #callersOf(stack: number): number {
    const { stacks } = this.recording;
    const path: number[] = [];
    let at = stack;
    for (; stacks.parentOf(at) !== NO_STACK && !this.#known.has(at); at = stacks.parentOf(at)) path.push(at);
    let callers = this.#known.get(at) ?? NO_STACK;
    for (const called of path.reverse()) {
      const caller = stacks.functionOf(stacks.parentOf(called));
      const key = this.#key(callers, caller, stacks.functionOf(called));
      callers = this.#near.get(key) ?? this.#all.get(key) ?? stacks.calledFrom(callers, caller);
      this.#known.set(called, callers);
    }
    return callers;
  }

  /** Where some samples saw each caller of a function most. */
  #seenIn(sampled: Iterable<number>): SeenCallers {
    const { stacks } = this.recording;
    const timesOf = new Map<number, number>();
    for (const stack of sampled) timesOf.set(stack, (timesOf.get(stack) ?? 0) + 1);
    const seenAt = new Map<number, number>();
    for (const [stack, times] of timesOf)
      for (let at = stack; at !== NO_STACK; at = stacks.parentOf(at))
        seenAt.set(at, (seenAt.get(at) ?? 0) + times);
    const most: SeenCallers = new Map();
    const mostOften = new Map<string, number>();
    for (const [called, often] of seenAt) {
      const caller = stacks.parentOf(called);
      if (caller === NO_STACK || stacks.lineOf(caller) === 0) continue;
      const key = this.#key(stacks.parentOf(caller), stacks.functionOf(caller), stacks.functionOf(called));
      if (often <= (mostOften.get(key) ?? 0)) continue;
      mostOften.set(key, often);
      most.set(key, caller);
    }
    return most;
  }

  #key(around: number, caller: number, called: number): string {
    const nameOf = (functionId: number) => canonicalFunction(this.recording, functionId);
    return `${around} ${nameOf(caller)} ${nameOf(called)}`;
  }
}
