import type { Recording } from '../recording/recording';
import { withBeginning } from '../stings/begun-by';
import { findCreep } from './creep';
import { findForcedLayouts } from './forced-layout';
import { findHangs } from './hang';
import { findIdleWork } from './idle-work';
import { findInputCreep } from './input-creep';
import { findLateFrames } from './late-frames';
import { findLongTasks } from './long-task';
import { mergeStings, rankStings } from '../stings/merge';
import { findMovedByLayout } from './moved-by-layout';
import { findRedrawnTooOften } from './redrawn-too-often';
import { findSlowOutcomes } from './slow-outcome';
import { findSlowResponses } from './slow-response';
import { findTooOften } from './too-often';
import { joinUnseen } from '../stings/unseen-blocks';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** Finds one kind of sting in a recording. */
export type Detector = (recording: Recording, thresholds: Thresholds) => Sting[];

export const DETECTORS: readonly Detector[] = [
  findSlowResponses,
  findSlowOutcomes,
  findHangs,
  findLateFrames,
  findLongTasks,
  findForcedLayouts,
  findCreep,
  findInputCreep,
  findIdleWork,
  findMovedByLayout,
  findTooOften,
  findRedrawnTooOften,
];

/** All stings of a recording, merged and in order of rank. */
export function findStings(recording: Recording, thresholds: Thresholds): Sting[] {
  const found = DETECTORS.flatMap((detect) => detect(recording, thresholds));
  const merged = joinUnseen(recording, mergeStings(found));
  return rankStings(merged.map((sting) => withBeginning(recording, sting)));
}
