import { memoizedPerThread } from '../recording/memoize';
import type { TimeRange } from '../recording/recording';
import { frameTimes, type FrameTime } from './frame-times';

/** A stretch in which pictures came at a steady rate below that of the display. */
export interface Cadence extends TimeRange {
  readonly picturesASecond: number;
  readonly displayASecond: number;
}

/** A rate below this is no cadence somebody would choose, but lateness. */
const MIN_PICTURES_A_SECOND = 29;
/** Pictures that make a cadence. */
const MIN_PICTURES = 20;
/** Pictures further apart than this share of the time between two refreshes are not in step. */
const MAX_DRIFT = 0.35;
const MIN_REFRESHES = 2;

/** How many refreshes of the display lie between a picture and the one before it, where that is in step; else 0. */
function refreshesBetween(before: FrameTime, frame: FrameTime, refreshMs: number): number {
  const exact = (frame.endMs - before.endMs) / refreshMs;
  const whole = Math.round(exact);
  return Math.abs(exact - whole) <= MAX_DRIFT ? whole : 0;
}

/**
 * Stretches in which an app draws at a steady part of the display's rate, such as 30 or 60 pictures a second on a
 * display of 120 Hz, in order of time. An app may do so on purpose; such frames are not late.
 */
export const cadencesOf = memoizedPerThread((recording, thread): readonly Cadence[] => {
  const { refreshMs } = recording.header;
  const frames = frameTimes(recording, thread);
  const found: Cadence[] = [];
  let first = 0;
  let step = 0;
  const close = (end: number) => {
    const rate = 1000 / (refreshMs * step);
    if (step >= MIN_REFRESHES && end - first >= MIN_PICTURES && rate >= MIN_PICTURES_A_SECOND) {
      found.push({
        startMs: frames[first]!.startMs,
        endMs: frames[end - 1]!.endMs,
        picturesASecond: rate,
        displayASecond: 1000 / refreshMs,
      });
    }
  };
  for (let at = 1; at <= frames.length; at++) {
    const next = at < frames.length ? refreshesBetween(frames[at - 1]!, frames[at]!, refreshMs) : 0;
    if (next === step && next > 0) continue;
    close(at);
    first = at - 1;
    step = next;
  }
  return found;
});
