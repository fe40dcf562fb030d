import { NO_STACK } from '../format/packed-samples';
import { memoizedPerThread } from '../recording/memoize';
import { samplesOf, type Recording } from '../recording/recording';
import { stackFacts } from './stack-facts';

/** The stack of a caller on the line at which it was seen, and how often it was. */
interface SeenCaller {
  readonly stack: number;
  readonly often: number;
}

/** By what is around a caller, the caller and what it calls: where it was seen most. */
type SeenCallers = ReadonlyMap<string, SeenCaller>;

/** @param around stack of the callers of the caller, with lines */
function keyOf(recording: Recording, around: number, called: number): string {
  const facts = stackFacts(recording);
  return `${around} ${facts.innermost(recording.stacks.parentOf(called))} ${facts.innermost(called)}`;
}

/** Where some samples saw each caller of a function most. */
function seenCallers(recording: Recording, sampled: Iterable<number>): SeenCallers {
  const { stacks } = recording;
  const timesOf = new Map<number, number>();
  for (const stack of sampled) timesOf.set(stack, (timesOf.get(stack) ?? 0) + 1);
  const seenAt = new Map<number, number>();
  for (const [stack, times] of timesOf)
    for (let at = stack; at !== NO_STACK; at = stacks.parentOf(at))
      seenAt.set(at, (seenAt.get(at) ?? 0) + times);
  const most = new Map<string, SeenCaller>();
  for (const [called, often] of seenAt) {
    const caller = stacks.parentOf(called);
    if (caller === NO_STACK || stacks.lineOf(caller) === 0) continue;
    const key = keyOf(recording, stacks.parentOf(caller), called);
    if (often > (most.get(key)?.often ?? 0)) most.set(key, { stack: caller, often });
  }
  return most;
}

const seenInThread = memoizedPerThread((recording, thread): SeenCallers =>
  seenCallers(recording, samplesOf(recording, thread).stacks),
);

/**
 * The lines at which the callers of exact calls stood, which know none themselves: where samples saw the same caller call
 * the same function, those close by first, and else at most moments of the thread.
 */
export class CallerLines {
  #closeBy: Iterable<number> = [];
  /** What those saw; not known before it is asked for. */
  #near: SeenCallers | undefined;
  /** For stacks without lines, those of their callers with lines. */
  readonly #known = new Map<number, number>();

  constructor(
    private readonly recording: Recording,
    private readonly thread: number,
  ) {}

  /** @param closeBy stacks of the samples that are close by from now on */
  moveTo(closeBy: Iterable<number>): void {
    this.#closeBy = closeBy;
    this.#near = undefined;
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
      callers =
        this.#seen(callers, called) ?? stacks.calledFrom(callers, stacks.functionOf(stacks.parentOf(called)));
      this.#known.set(called, callers);
    }
    return callers;
  }

  #seen(around: number, called: number): number | undefined {
    this.#near ??= seenCallers(this.recording, this.#closeBy);
    const key = keyOf(this.recording, around, called);
    return (this.#near.get(key) ?? seenInThread(this.recording, this.thread).get(key))?.stack;
  }
}
