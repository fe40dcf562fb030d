import type { Recording } from '../recording/recording';
import { findHangs } from './hang';
import { findLongTasks } from './long-task';
import { mergeStings, rankStings } from './merge';
import { findSlowResponses } from './slow-response';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Finds one kind of sting in a recording. */
export type Detector = (recording: Recording, thresholds: Thresholds) => Sting[];

export const DETECTORS: readonly Detector[] = [findSlowResponses, findHangs, findLongTasks];

/** All stings of a recording, merged and in order of rank. */
export function findStings(recording: Recording, thresholds: Thresholds): Sting[] {
  return rankStings(mergeStings(DETECTORS.flatMap((detect) => detect(recording, thresholds))));
}
