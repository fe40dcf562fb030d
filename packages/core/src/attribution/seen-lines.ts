import { NO_STACK } from '../format/packed-samples';
import { samplesOf, type Recording } from '../recording/recording';
import type { Samples } from '../recording/samples';
import { CallerLines } from './caller-lines';
import { stackFacts, type StackFacts } from './stack-facts';

/** A sample says on which line a call stood, where it was taken within so many intervals of it. */
const NEAR_INTERVALS = 2;

/** Gives stretches of exact calls, which know no lines, those at which samples saw the same function. */
export class SeenLines {
  readonly #samples: Samples;
  readonly #callers: CallerLines;
  readonly #facts: StackFacts;
  /** The first sample from the latest stretch on; -1 before the first. */
  #next = -1;

  constructor(
    private readonly recording: Recording,
    thread: number,
  ) {
    this.#samples = samplesOf(recording, thread);
    this.#callers = new CallerLines(recording, thread);
    this.#facts = stackFacts(recording);
  }

  /**
   * Parts a stretch among the samples that saw its function in it, each as long as the others.
   * @param stack of the stretch, without lines; stretches must be asked for in order of time
   * @param visit takes the stack with its lines, or with those of its callers alone where no sample that saw it was near
   */
  pieces(startMs: number, endMs: number, stack: number, visit: (endMs: number, stack: number) => void): void {
    const samples = this.#samples;
    this.#moveTo(startMs);
    const within: number[] = [];
    let at = this.#next;
    for (; at < samples.length && samples.timeMs(at) < endMs; at++)
      if (this.#sees(at, stack)) within.push(samples.stacks[at]!);
    if (within.length === 0) {
      visit(endMs, this.#closeBy(startMs, endMs, at, stack) ?? this.#callers.of(stack));
      return;
    }
    within.forEach((seen, index) => {
      visit(startMs + ((endMs - startMs) * (index + 1)) / within.length, seen);
    });
  }

  /**
   * The stack with its lines by the samples right before and right after a stretch, the nearer one first: as it ran itself
   * then, or else as it called.
   * @param after the first sample after it
   */
  #closeBy(startMs: number, endMs: number, after: number, stack: number): number | undefined {
    const samples = this.#samples;
    const reachMs = NEAR_INTERVALS * samples.intervalMs;
    const offMs = (at: number) => Math.max(startMs - samples.timeMs(at), samples.timeMs(at) - endMs);
    const near = [this.#next - 1, after]
      .filter((at) => at >= 0 && at < samples.length && offMs(at) <= reachMs)
      .sort((a, b) => offMs(a) - offMs(b));
    const itself = near.find((at) => this.#sees(at, stack));
    if (itself !== undefined) return samples.stacks[itself]!;
    for (const at of near) {
      const calling = this.#callIn(samples.stacks[at]!, stack);
      if (calling !== undefined) return calling;
    }
    return undefined;
  }

  /** The same call as it stood within another stack, with its line. */
  #callIn(deeper: number, stack: number): number | undefined {
    if (deeper === NO_STACK) return undefined;
    const { stacks } = this.recording;
    const depth = this.#facts.depth(stack);
    let at = deeper;
    for (let above = this.#facts.depth(deeper) - depth; above > 0; above--) at = stacks.parentOf(at);
    return this.#facts.depth(at) === depth && this.#isLined(at, stack) ? at : undefined;
  }

  #moveTo(startMs: number): void {
    const samples = this.#samples;
    let next = this.#next < 0 ? samples.firstAtOrAfter(startMs) : this.#next;
    while (next < samples.length && samples.timeMs(next) < startMs) next++;
    if (next === this.#next) return;
    this.#next = next;
    this.#callers.moveTo(samples.stacks.subarray(Math.max(0, next - NEAR_INTERVALS), next + NEAR_INTERVALS));
  }

  #sees(at: number, stack: number): boolean {
    const seen = this.#samples.stacks[at]!;
    return seen !== NO_STACK && this.#isLined(seen, stack);
  }

  /** Whether a stack that was seen is one of the same function, and its line is known. */
  #isLined(seen: number, stack: number): boolean {
    const { stacks } = this.recording;
    return stacks.lineOf(seen) > 0 && this.#facts.innermost(seen) === this.#facts.innermost(stack);
  }
}
