import { canonicalFunction } from '../blame/call-path';
import { NO_STACK } from '../format/packed-samples';
import { oncePerRecording } from '../recording/once';
import type { Recording } from '../recording/recording';

/** For each function id met in stacks, the one id that stands for it. */
export const canonicalIds = oncePerRecording((recording) => {
  const known = new Map<number, number>();
  return (functionId: number): number => {
    let id = known.get(functionId);
    if (id === undefined) known.set(functionId, (id = canonicalFunction(recording, functionId)));
    return id;
  };
});

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
    let canonical = this.#known.get(stack);
    if (canonical === undefined) {
      const { stacks } = this.recording;
      canonical = this.calledFrom(this.of(stacks.parentOf(stack)), stacks.functionOf(stack));
      this.#known.set(stack, canonical);
    }
    return canonical;
  }

  calledFrom(stack: number, functionId: number): number {
    return this.recording.stacks.calledFrom(stack, this.#idOf(functionId));
  }
}
