import type { RecordingWriter } from './recording-writer';
import type { StoredRecording } from '../../store/database';
import type { LiveProblem, LiveRecording, LiveRecordingState, RecordingName } from './live-state';

/** The recording that this tab writes. */
export interface Current {
  readonly writer: RecordingWriter;
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

/** A recording to follow from its beginning, or the shelf's entry of one to go on with and the right to write it. */
export interface Following {
  readonly named?: RecordingName;
  readonly kept?: StoredRecording;
  readonly release?: () => void;
}

/** Whether a recording is on the way to its end, and does not go back to running. */
export function isEnding({ state }: Current): boolean {
  return state === 'stopping' || state === 'finishing';
}

/** The recording as the interface is told of it. @param cutOff whether the server is away while it runs */
export function describe(current: Current, cutOff: boolean, roomBytes: number | undefined): LiveRecording {
  const { writer, state, targetId, targetTitle } = current;
  const problem = cutOff ? 'connection-lost' : current.problem;
  const { summary } = writer;
  const shownMs = {
    recording: current.elapsedBefore + Date.now() - current.runningSince,
    paused: current.elapsedBefore,
  };
  const elapsedMs = state === 'recording' || state === 'paused' ? shownMs[state] : summary.lastMs;
  return {
    id: writer.recordingId,
    targetId,
    targetTitle,
    state,
    elapsedMs,
    bytes: writer.bytes,
    busyShare: summary.busyShare(),
    busyHistory: summary.history(),
    inputs: summary.inputs(),
    tasks: summary.tasks(),
    costShare: summary.costShare,
    ...(summary.hang === undefined || state !== 'recording' ? {} : { hang: summary.hang }),
    ...(roomBytes === undefined ? {} : { roomBytes }),
    ...(problem === undefined ? {} : { problem }),
  };
}
