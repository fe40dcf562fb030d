import { NO_STACK } from '../format/packed-samples';
import { samplesOf, type Recording } from '../recording/recording';
import type { Samples } from '../recording/samples';
import { canonicalFunction } from './call-path';
import { CallerLines } from './caller-lines';

/** A sample says on which line a call stood, where it was taken within so many intervals of it. */
const NEAR_INTERVALS = 2;

/** Gives stretches of exact calls, which know no lines, those at which samples saw the same function. */
export class SeenLines {
  readonly #samples: Samples;
  readonly #callers: CallerLines;
  /** The first sample from the latest stretch on; -1 before the first. */
  #next = -1;

  constructor(
    private readonly recording: Recording,
    thread: number,
  ) {
    this.#samples = samplesOf(recording, thread);
    this.#callers = new CallerLines(recording, thread);
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
      const near = [this.#next - 1, at].find(
        (one) =>
          one >= 0 && one < samples.length && this.#isNear(one, startMs, endMs) && this.#sees(one, stack),
      );
      visit(endMs, near === undefined ? this.#callers.of(stack) : samples.stacks[near]!);
      return;
    }
    within.forEach((seen, index) => {
      visit(startMs + ((endMs - startMs) * (index + 1)) / within.length, seen);
    });
  }

  #moveTo(startMs: number): void {
    const samples = this.#samples;
    let next = Math.max(0, this.#next);
    while (next < samples.length && samples.timeMs(next) < startMs) next++;
    if (next === this.#next) return;
    this.#next = next;
    this.#callers.moveTo(samples.stacks.subarray(Math.max(0, next - NEAR_INTERVALS), next + NEAR_INTERVALS));
  }

  #isNear(at: number, startMs: number, endMs: number): boolean {
    const reachMs = NEAR_INTERVALS * this.#samples.intervalMs;
    const ms = this.#samples.timeMs(at);
    return ms >= startMs - reachMs && ms <= endMs + reachMs;
  }

  #sees(at: number, stack: number): boolean {
    const seen = this.#samples.stacks[at]!;
    if (seen === NO_STACK) return false;
    const { stacks } = this.recording;
    const nameOf = (one: number) => canonicalFunction(this.recording, stacks.functionOf(one));
    return stacks.lineOf(seen) > 0 && nameOf(seen) === nameOf(stack);
  }
}
