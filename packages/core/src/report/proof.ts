import { compareAnatomies, type ComparedAnatomies } from '../compare/compare-anatomies';
import { compareRecordings, type Comparison } from '../compare/compare';
import type { Recording } from '../recording/recording';
import { DEFAULT_THRESHOLDS, type Thresholds } from '../format/thresholds';

/** The result of comparing two recordings, ready to be passed on. */
export interface Proof {
  readonly before: Recording;
  readonly after: Recording;
  readonly comparison: Comparison;
  /** The middle attempts of what changed, the largest change first. */
  readonly anatomies: readonly ComparedAnatomies[];
  readonly thresholds: Thresholds;
}

const MAX_ANATOMIES = 3;

/** Compares two recordings and takes apart what became faster or slower. */
export function proofOf(
  before: Recording,
  after: Recording,
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): Proof {
  const comparison = compareRecordings(before, after, thresholds);
  const anatomies = comparison.series
    .filter(({ isInteraction, before: was, after: is }) => isInteraction && was.count > 0 && is.count > 0)
    .slice(0, MAX_ANATOMIES)
    .map(({ label }) => compareAnatomies(before, after, label, thresholds));
  return { before, after, comparison, anatomies, thresholds };
}
