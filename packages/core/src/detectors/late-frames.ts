import type { Anatomy } from '../explanation/anatomy';
import { becauseOfCulprits } from '../explanation/because-culprits';
import { countText } from '../words/figures';
import { ms, text, type BecausePart } from '../explanation/sentence';
import { interactionsIn } from '../inputs/interactions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { cadencesOf } from '../stings/cadence';
import { entryLabel } from '../stings/handlers';
import { frameTimes, type FrameTime } from '../stings/frame-times';
import { withinRanges } from '../stings/idle-intervals';
import { recorderMs } from '../stings/recorder-time';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';
import { secondsText } from '../words/figures';
import { first, last } from '../lists/items';

export interface LateFramesDetail extends StingDetail {
  readonly type: 'late-frames';
  readonly late: number;
  readonly missed: number;
  readonly refreshMs: number;
}

/** Late frames further apart than this belong to two runs. */
const RUN_GAP_MS = 300;
const MIN_LATE_FRAMES = 3;
/** A picture lies within the cadence that ends with it. */
const STEP_MS = 0.001;

function runsOf(frames: readonly FrameTime[]): FrameTime[][] {
  const runs: FrameTime[][] = [];
  for (const frame of frames) {
    const run = runs.at(-1);
    if (run !== undefined && frame.startMs - last(run).endMs <= RUN_GAP_MS) run.push(frame);
    else runs.push([frame]);
  }
  return runs;
}

/** Whether a frame was late because an input was answered late, which is told as that. */
function isAnswer(recording: Recording, frame: FrameTime, responseMs: number): boolean {
  const half = (frame.endMs - frame.startMs) / 2;
  return interactionsIn(recording, frame).some(
    ({ startMs, feltMs }) =>
      feltMs > responseMs &&
      Math.min(frame.endMs, startMs + feltMs) - Math.max(frame.startMs, startMs) > half,
  );
}

/**
 * Runs of frames that came later than the display could have shown them, unless they keep a steady cadence. Where one of them is most of the run, it is
 * a long task or a hang, and no run.
 */
function find(recording: Recording, thresholds: Thresholds): Found<LateFramesDetail>[] {
  const { refreshMs } = recording.header;
  const isInStep = withinRanges(cadencesOf(recording, MAIN_THREAD));
  const frames = frameTimes(recording, MAIN_THREAD).filter(
    (frame) =>
      !isInStep(frame.endMs - STEP_MS) &&
      frame.missed >= 1 &&
      !isAnswer(recording, frame, thresholds.responseMs),
  );
  return runsOf(frames).flatMap((run): Found<LateFramesDetail>[] => {
    const missed = run.reduce((sum, frame) => sum + frame.missed, 0);
    const lengths = run.map((frame) => frame.endMs - frame.startMs);
    const longestMs = lengths.reduce((most, ms) => Math.max(most, ms), 0);
    const isOneHang = longestMs > lengths.reduce((sum, ms) => sum + ms, 0) / 2;
    if (run.length < MIN_LATE_FRAMES || missed < thresholds.missedFrames || isOneHang) return [];
    const range = { startMs: first(run).startMs, endMs: last(run).endMs };
    const lateMs = lengths.reduce((sum, ms) => sum + ms, 0);
    if (recorderMs(recording, MAIN_THREAD, range) > lateMs / 2) return [];
    return [
      {
        thread: MAIN_THREAD,
        label: entryLabel(recording, MAIN_THREAD, range),
        ...range,
        feltMs: longestMs,
        budgetMs: refreshMs,
        detail: { type: 'late-frames', late: run.length, missed, refreshMs },
      },
    ];
  });
}

function seconds(lengthMs: number): string {
  return lengthMs < 1000 ? `${Math.round(lengthMs)} ms` : secondsText(lengthMs, 1);
}

function because(recording: Recording, anatomy: Anatomy, detail: LateFramesDetail): BecausePart[] {
  const { sting } = anatomy;
  return [
    text(
      `For ${seconds(sting.endMs - sting.startMs)} the picture lagged: ${countText(detail.late)} frames came late, the worst `,
    ),
    ms(sting.feltMs, true),
    text(
      ` after the one before it where the display waits ${Math.round(detail.refreshMs)} ms, and ${countText(detail.missed)} were missed.`,
    ),
    ...becauseOfCulprits(recording, anatomy),
  ];
}

export const lateFrames: Detector<'late-frames', LateFramesDetail> = {
  kind: 'late-frames',
  detail: 'late-frames',
  label: 'late frames',
  about: 'A run of pictures later than the display could have shown them, with `missedFrames` missed or more',
  extent: 'spell',
  isRate: false,
  find,
  because,
};
