import { canonicalFunction } from '../attribution/call-path';
import { NO_STACK } from '../format/packed-samples';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording } from '../recording/recording';
import { known } from '../lists/items';

/** For each function id met in stacks, the one id that stands for it. */
export const canonicalIds = memoizedPerRecording(
  (recording) =>
    (functionId: number): number =>
      canonicalFunction(recording, functionId),
);

/**
 * For each stack the one that stands for all with the same functions. Adds stacks to the recording's table where
 * none is there yet.
 */
export class CanonicalStacks {
  readonly #known = new Map<number, number>([[NO_STACK, NO_STACK]]);
  readonly #idOf: (functionId: number) => number;

  constructor(private readonly recording: Recording) {
    this.#idOf = canonicalIds(recording);
  }

  of(stack: number): number {
    const { stacks } = this.recording;
    const unknown: number[] = [];
    let at = stack;
    while (!this.#known.has(at)) {
      unknown.push(at);
      at = stacks.parentOf(at);
    }
    let canonical = known(this.#known, at);
    for (const one of unknown.reverse()) {
      canonical = this.calledFrom(canonical, stacks.functionOf(one));
      this.#known.set(one, canonical);
    }
    return canonical;
  }

  calledFrom(stack: number, functionId: number): number {
    return this.recording.stacks.calledFrom(stack, this.#idOf(functionId));
  }
}
