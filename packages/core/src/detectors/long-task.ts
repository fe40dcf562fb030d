import type { Recording } from '../recording/recording';
import { reportedBusy } from '../stings/reported-busy';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';
import { foundBlock } from './found-block';

/** Tasks over the budget (W3C Long Tasks: over 50 ms) that are not long enough to be a hang. */
function find(recording: Recording, thresholds: Thresholds): Found[] {
  return reportedBusy(recording, thresholds.longTaskMs)
    .filter(({ busyMs }) => busyMs > thresholds.longTaskMs && busyMs < thresholds.hangMs)
    .map((block) => foundBlock(recording, block, thresholds.longTaskMs));
}

export const longTask: Detector<'long-task'> = {
  kind: 'long-task',
  label: 'long task',
  about: 'A task over `longTaskMs` that is no hang',
  extent: 'block',
  isRate: false,
  find,
};
