import type { Anatomy } from '../explanation/anatomy';
import type { BecausePart } from '../explanation/sentence';
import type { Recording, TimeRange } from '../recording/recording';

/** Something that could be done, and what was recorded that speaks for it. */
export interface Suggestion {
  readonly kind: string;
  /** What to do. */
  readonly advice: readonly BecausePart[];
  /** What was seen. */
  readonly evidence: readonly BecausePart[];
  /** The place to look at. */
  readonly functionId: number | undefined;
  readonly range: TimeRange;
  /** The delay that would be saved at most: an upper bound. Milliseconds. */
  readonly savesMs: number;
}

/** Looks for one kind of advice. No evidence, no suggestion. */
export type Adviser = (recording: Recording, anatomy: Anatomy) => Suggestion[];
