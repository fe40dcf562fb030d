import type { Recording } from '../recording/recording';
import { busyBlocks } from './busy-blocks';
import { stingOfBlock } from './sting-of-block';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Stretches in which the main thread answered nothing for as long as the hang threshold or longer. */
export function findHangs(recording: Recording, thresholds: Thresholds): Sting[] {
  return busyBlocks(recording, thresholds.hangMs).map((block) =>
    stingOfBlock(recording, block, 'hang', thresholds.longTaskMs),
  );
}
