import type { Recording } from '../recording/recording';
import { busyBlocks } from './busy-blocks';
import { entryLabel } from './entry-label';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Stretches in which the main thread answered nothing for as long as the hang threshold or longer. */
export function findHangs(recording: Recording, thresholds: Thresholds): Sting[] {
  return busyBlocks(recording, thresholds.hangMs).map((block) => ({
    ...block,
    kind: 'hang',
    also: [],
    label: entryLabel(recording, block.thread, block),
    feltMs: block.endMs - block.startMs,
    budgetMs: thresholds.longTaskMs,
  }));
}
