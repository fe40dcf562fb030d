import type { Thresholds } from '../format/thresholds';
import type { Recording } from '../recording/recording';
import { mergeStings, rankStings } from '../stings/merge';
import type { Sting } from '../stings/sting';
import { withBeginning } from './begun-by';
import { stingOf } from './detector';
import { DETECTORS, JOINERS, STING_KINDS } from './list';

/** All stings of a recording, merged and in order of rank. */
export function findStings(recording: Recording, thresholds: Thresholds): Sting[] {
  const found = DETECTORS.flatMap((detector) =>
    detector.find(recording, thresholds).map((one) => stingOf(detector, one)),
  );
  const joined = JOINERS.reduce<readonly Sting[]>(
    (stings, joiner) => joiner.join(recording, stings),
    mergeStings(found, STING_KINDS),
  );
  return rankStings(joined.map((sting) => withBeginning(recording, sting)));
}
