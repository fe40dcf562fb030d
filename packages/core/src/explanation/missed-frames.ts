import type { Recording } from '../recording/recording';
import { firstIndex } from '../statistics/search';
import { frameTimes, type FrameTime } from '../stings/frame-times';
import type { Sting } from '../stings/sting';

/**
 * When within a sting the display could have shown a new picture and got none, as the thread was busy. Where pictures
 * were not told of, what is one stretch counts as one picture that was late.
 * @returns milliseconds, in order of time
 */
export function missedFrames(recording: Recording, sting: Sting): number[] {
  const { refreshMs } = recording.header;
  return pictures(recording, sting)
    .flatMap(({ startMs, missed }) =>
      Array.from({ length: missed }, (_, at) => startMs + (at + 1) * refreshMs),
    )
    .filter((ms) => ms > sting.startMs && ms < sting.endMs);
}

/** Frames that overlap a range; each ends where the next may begin, so their ends ascend. */
function between(frames: readonly FrameTime[], startMs: number, endMs: number): FrameTime[] {
  const found: FrameTime[] = [];
  const first = firstIndex(frames.length, (at) => frames[at]!.endMs > startMs);
  for (let at = first; at < frames.length && frames[at]!.startMs < endMs; at++) found.push(frames[at]!);
  return found;
}

function pictures(recording: Recording, { extent, thread, startMs, endMs }: Sting): FrameTime[] {
  const frames = frameTimes(recording, thread);
  if (frames.length > 0) return between(frames, startMs, endMs);
  const missed = Math.round((endMs - startMs) / recording.header.refreshMs) - 1;
  return extent === 'block' && missed > 0 ? [{ startMs, endMs, missed }] : [];
}
