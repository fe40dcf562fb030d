import type { Recording } from '../recording/recording';
import { busyBlocks } from './busy-blocks';
import { entryLabel } from './entry-label';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Tasks over the budget (W3C Long Tasks: over 50 ms) that are not long enough to be a hang. */
export function findLongTasks(recording: Recording, thresholds: Thresholds): Sting[] {
  return busyBlocks(recording, thresholds.longTaskMs)
    .filter((block) => {
      const lengthMs = block.endMs - block.startMs;
      return lengthMs > thresholds.longTaskMs && lengthMs < thresholds.hangMs;
    })
    .map((block) => ({
      ...block,
      kind: 'long-task',
      also: [],
      label: entryLabel(recording, block.thread, block),
      feltMs: block.endMs - block.startMs,
      budgetMs: thresholds.longTaskMs,
    }));
}
