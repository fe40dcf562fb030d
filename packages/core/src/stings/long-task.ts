import type { Recording } from '../recording/recording';
import { busyBlocks } from './busy-blocks';
import { stingOfBlock } from './sting-of-block';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Tasks over the budget (W3C Long Tasks: over 50 ms) that are not long enough to be a hang. */
export function findLongTasks(recording: Recording, thresholds: Thresholds): Sting[] {
  return busyBlocks(recording, thresholds.longTaskMs)
    .filter(({ busyMs }) => busyMs > thresholds.longTaskMs && busyMs < thresholds.hangMs)
    .map((block) => stingOfBlock(recording, block, 'long-task', thresholds.longTaskMs));
}
