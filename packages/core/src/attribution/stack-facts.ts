import { outermostOfFunction } from '../recording/tree-index';
import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, isOwnFunction } from '../recording/functions';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording } from '../recording/recording';
import { canonicalFunction } from './call-path';
import type { Segment } from './segments';

/** Functions of a stack beyond so many are left out where stacks are drawn: nobody can see more rows. */
export const MAX_DRAWN_DEPTH = 100;

const NONE = -1;

/**
 * What is known of each stack from its innermost function and its caller's stack, found once and in one step each, so
 * that stacks of any depth cost no more than their number.
 */
export class StackFacts {
  readonly #outermost: number[] = [];
  readonly #innermostOwn: number[] = [];
  /** Nearest stack with an own innermost function, the stack itself included, or NONE. */
  readonly #ownStack: number[] = [];
  readonly #depth: number[] = [];
  readonly #ownDepth: number[] = [];
  /** The stack at the greatest depth that is drawn, of all functions and of own ones. */
  readonly #drawn: number[] = [];
  readonly #drawnOwn: number[] = [];

  #outermostOfFunction: Uint8Array | undefined;

  constructor(private readonly recording: Recording) {}

  /** Id of the outermost function. */
  outermost(stack: number): number {
    this.#reach(stack);
    return this.#outermost[stack]!;
  }

  /** Id of the innermost function. */
  innermost(stack: number): number {
    return canonicalFunction(this.recording, this.recording.stacks.functionOf(stack));
  }

  /** Id of the innermost own function; undefined where none is own. */
  innermostOwn(stack: number): number | undefined {
    this.#reach(stack);
    const own = this.#innermostOwn[stack]!;
    return own === NONE ? undefined : own;
  }

  /** Number of functions of a stack. */
  depth(stack: number): number {
    this.#reach(stack);
    return this.#depth[stack]!;
  }

  /** The function a moment is charged to: the innermost own one, or the innermost of all where none is own. */
  charged(stack: number): number {
    return this.innermostOwn(stack) ?? this.innermost(stack);
  }

  /** The stack of the function a moment is charged to. */
  chargedStack(stack: number): number {
    this.#reach(stack);
    const own = this.#ownStack[stack]!;
    return own === NONE ? stack : own;
  }

  /** The own functions of a stack from the outermost inwards, all of it where none is own; no more than can be drawn. */
  drawnPath(stack: number): number[] {
    this.#reach(stack);
    const isOwn = this.#ownDepth[stack]! > 0;
    const path: number[] = [];
    const { stacks } = this.recording;
    let at = isOwn ? this.#drawnOwn[stack]! : this.#drawn[stack]!;
    while (at !== NO_STACK && at !== NONE) {
      path.push(this.innermost(at));
      const caller = stacks.parentOf(at);
      at = isOwn && caller !== NO_STACK ? this.#ownStack[caller]! : caller;
    }
    return path.reverse();
  }

  /** Whether no caller of a stack's innermost function is that function too. */
  isOutermostOfFunction(stack: number): boolean {
    if (this.#outermostOfFunction === undefined || this.#outermostOfFunction.length <= stack) {
      const { stacks } = this.recording;
      this.#outermostOfFunction = outermostOfFunction(stacks, (at) => this.innermost(at));
    }
    return this.#outermostOfFunction[stack] === 1;
  }

  #reach(stack: number): void {
    const { stacks } = this.recording;
    for (let at = this.#depth.length; at <= stack; at++) {
      const caller = stacks.parentOf(at);
      const id = this.innermost(at);
      const isOwn = isOwnFunction(this.recording, id);
      const has = caller !== NO_STACK;
      const depth = has ? this.#depth[caller]! + 1 : 1;
      const ownDepth = (has ? this.#ownDepth[caller]! : 0) + (isOwn ? 1 : 0);
      this.#outermost.push(has ? this.#outermost[caller]! : id);
      this.#innermostOwn.push(isOwn ? id : has ? this.#innermostOwn[caller]! : NONE);
      this.#ownStack.push(isOwn ? at : has ? this.#ownStack[caller]! : NONE);
      this.#depth.push(depth);
      this.#ownDepth.push(ownDepth);
      this.#drawn.push(depth <= MAX_DRAWN_DEPTH || !has ? at : this.#drawn[caller]!);
      const drawsOwn = isOwn && ownDepth <= MAX_DRAWN_DEPTH;
      this.#drawnOwn.push(drawsOwn ? at : has ? this.#drawnOwn[caller]! : NONE);
    }
  }
}

export const stackFacts = memoizedPerRecording((recording) => new StackFacts(recording));

/** The outermost function running during a segment; undefined when none is known. */
export function outermostFunction(recording: Recording, { stack, entry }: Segment): number | undefined {
  if (stack !== NO_STACK) return stackFacts(recording).outermost(stack);
  return entry === UNKNOWN_FUNCTION ? undefined : canonicalFunction(recording, entry);
}

/** The innermost function running during a segment; undefined when none is known. */
export function innermostFunction(recording: Recording, { stack, entry }: Segment): number | undefined {
  if (stack !== NO_STACK) return stackFacts(recording).innermost(stack);
  return entry === UNKNOWN_FUNCTION ? undefined : canonicalFunction(recording, entry);
}

/** The innermost own function running during a segment; undefined where none is own, or known. */
export function innermostOwn(recording: Recording, segment: Segment): number | undefined {
  if (segment.stack !== NO_STACK) return stackFacts(recording).innermostOwn(segment.stack);
  const entered = innermostFunction(recording, segment);
  return entered !== undefined && isOwnFunction(recording, entered) ? entered : undefined;
}
