import type { Keeper } from './keeper';
import type { LiveProblem, LiveRecordingState } from './live-state';

/** The recording that this tab writes. */
export interface Current {
  readonly keeper: Keeper;
  readonly targetId: string;
  targetTitle: string;
  state: LiveRecordingState;
  problem?: LiveProblem;
  /** When the time shown began to run, on this computer's clock. */
  runningSince: number;
  elapsedBefore: number;
  /** Gives up the right to write the recording. */
  release: () => void;
}
