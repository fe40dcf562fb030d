import type { Recording } from '../recording/recording';
import { reportedBusy } from '../stings/reported-busy';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';
import { foundBlock } from './found-block';

/** Stretches in which the main thread answered nothing for as long as the hang threshold or longer. */
function find(recording: Recording, thresholds: Thresholds): Found[] {
  return reportedBusy(recording, thresholds.hangMs).map((block) =>
    foundBlock(recording, block, thresholds.longTaskMs),
  );
}

export const hang: Detector<'hang'> = {
  kind: 'hang',
  label: 'hang',
  about: 'The main thread was taken for `hangMs` or longer',
  extent: 'block',
  isRate: false,
  find,
};
