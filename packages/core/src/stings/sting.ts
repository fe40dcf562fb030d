import type { Interaction } from '../inputs/interactions';
import type { TimeRange } from '../recording/recording';

export type StingKind = 'slow-response' | 'hang' | 'long-task';

/** One delay that a person felt, or would have felt. */
export interface Sting extends TimeRange {
  readonly kind: StingKind;
  /** Other kinds found at the same place and merged into this one. */
  readonly also: readonly StingKind[];
  readonly thread: number;
  readonly label: string;
  /** Milliseconds from the input to the picture; without an input, those one would have waited. */
  readonly feltMs: number;
  readonly budgetMs: number;
  /** What the person did, where somebody was waiting. */
  readonly interaction?: Interaction;
}

export function excessMs(sting: Sting): number {
  return sting.feltMs - sting.budgetMs;
}
