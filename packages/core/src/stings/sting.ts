import type { OutcomeStep } from '../outcomes/steps';
import type { Interaction } from '../inputs/interactions';
import type { TimeRange } from '../recording/recording';

/**
 * How a sting lies in time: a `block` is one stretch in which the thread was taken, with one picture at its end; a
 * `spell` has many moments close to each other; a `course` tells of a whole stretch of use, so that nothing within it is
 * explained by it, and it is never a part of another.
 */
export type StingExtent = 'block' | 'spell' | 'course';

/**
 * What a detector found beside the delay itself. Each detector adds what is its own; what the anatomy of every sting may
 * go by is here.
 */
export interface StingDetail {
  readonly type: string;
  /** From an input to its outcome; they follow each other. */
  readonly steps?: readonly OutcomeStep[];
  /** The function that the detector found, where it goes before what samples and calls say took the time. */
  readonly culprit?: {
    readonly functionId: number;
    /** What would be saved of each second beside its own time: the layout it has done anew, for one. */
    readonly besidesMsASecond: number;
  };
}

/** One delay that a person felt, or would have felt. */
export interface Sting extends TimeRange {
  readonly kind: string;
  /** Other kinds found at the same place and merged into this one. */
  readonly also: readonly string[];
  readonly extent: StingExtent;
  /** Whether the delay is a part of each second, for what goes on, and not one delay. */
  readonly isRate: boolean;
  readonly thread: number;
  readonly label: string;
  /** What it is called by itself, where the label says which input began it. */
  readonly ownLabel?: string;
  /**
   * Milliseconds from the input to the picture; without an input, those one would have waited. Where it is a rate, the
   * milliseconds of a second that it takes.
   */
  readonly feltMs: number;
  readonly budgetMs: number;
  readonly detail?: StingDetail;
  /** What the person did, where somebody was waiting. */
  readonly interaction?: Interaction;
}

export function excessMs(sting: Sting): number {
  return sting.feltMs - sting.budgetMs;
}
