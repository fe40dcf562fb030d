import type { Recording } from '../recording/recording';
import { reportedBusy } from '../stings/reported-busy';
import { stingOfBlock } from '../stings/sting-of-block';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** Tasks over the budget (W3C Long Tasks: over 50 ms) that are not long enough to be a hang. */
export function findLongTasks(recording: Recording, thresholds: Thresholds): Sting[] {
  return reportedBusy(recording, thresholds.longTaskMs)
    .filter(({ busyMs }) => busyMs > thresholds.longTaskMs && busyMs < thresholds.hangMs)
    .map((block) => stingOfBlock(recording, block, 'long-task', thresholds.longTaskMs));
}
