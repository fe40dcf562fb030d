import { creep } from './creep';
import type { Detector, Joiner } from './detector';
import { forcedLayout } from './forced-layout';
import { hang } from './hang';
import { idleWork } from './idle-work';
import { inputCreep } from './input-creep';
import { lateFrames } from './late-frames';
import { longTask } from './long-task';
import { movedByLayout } from './moved-by-layout';
import { redrawnTooOften } from './redrawn-too-often';
import { slowOutcome } from './slow-outcome';
import { slowResponse } from './slow-response';
import { tooOften } from './too-often';
import { unseen } from './unseen';

const LISTED = [
  slowResponse,
  slowOutcome,
  lateFrames,
  hang,
  longTask,
  forcedLayout,
  creep,
  inputCreep,
  idleWork,
  movedByLayout,
  tooOften,
  redrawnTooOften,
] as const;

export type StingKind = (typeof LISTED)[number]['kind'];

/** All detectors, in the order of precedence: what lies within a sting of an earlier kind becomes part of it. */
export const DETECTORS: readonly Detector[] = LISTED;

export const JOINERS: readonly Joiner[] = [unseen];

/** Kinds of stings, in the order of precedence. */
export const STING_KINDS = [...new Set(LISTED.map(({ kind }) => kind))];
