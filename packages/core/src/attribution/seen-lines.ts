import { NO_STACK } from '../format/packed-samples';
import { samplesOf, type Recording } from '../recording/recording';
import type { Samples } from '../recording/samples';
import { canonicalFunction } from './call-path';

/** A sample says on which line a call stood, where it was taken within so many intervals of it. */
const NEAR_INTERVALS = 2;

/** Gives stretches of exact calls, which know no lines, those at which samples saw the same function. */
export class SeenLines {
  readonly #samples: Samples;
  #next = 0;

  constructor(
    private readonly recording: Recording,
    thread: number,
  ) {
    this.#samples = samplesOf(recording, thread);
  }

  /**
   * Parts a stretch among the samples that saw its function in it, each as long as the others.
   * @param stack of the stretch, without lines; stretches must be asked for in order of time
   * @param visit takes the stack with its lines, or the one that was given where no sample was near
   */
  pieces(startMs: number, endMs: number, stack: number, visit: (endMs: number, stack: number) => void): void {
    const samples = this.#samples;
    while (this.#next < samples.length && samples.timeMs(this.#next) < startMs) this.#next++;
    const within: number[] = [];
    let at = this.#next;
    for (; at < samples.length && samples.timeMs(at) < endMs; at++)
      if (this.#sees(at, stack)) within.push(samples.stacks[at]!);
    if (within.length === 0) {
      const near = [this.#next - 1, at].find(
        (one) =>
          one >= 0 && one < samples.length && this.#isNear(one, startMs, endMs) && this.#sees(one, stack),
      );
      visit(endMs, near === undefined ? stack : samples.stacks[near]!);
      return;
    }
    within.forEach((seen, index) => {
      visit(startMs + ((endMs - startMs) * (index + 1)) / within.length, seen);
    });
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
