import type { Recording } from '../recording/recording';
import { reportedBusy } from '../stings/reported-busy';
import { stingOfBlock } from '../stings/sting-of-block';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** Stretches in which the main thread answered nothing for as long as the hang threshold or longer. */
export function findHangs(recording: Recording, thresholds: Thresholds): Sting[] {
  return reportedBusy(recording, thresholds.hangMs).map((block) =>
    stingOfBlock(recording, block, 'hang', thresholds.longTaskMs),
  );
}
