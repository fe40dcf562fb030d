import { memoizedPerThread } from '../recording/memoize';
import type { TimeRange } from '../recording/recording';
import { busyIntervals } from './busy-intervals';

/** One picture of the page, from when work on it began. */
export interface FrameTime extends TimeRange {
  /** Pictures the display could have shown meanwhile. */
  readonly missed: number;
}

/**
 * Frames that were probed, each from when the thread was free last, or from the picture before it, to its own picture,
 * in order of time.
 */
export const frameTimes = memoizedPerThread((recording, thread): readonly FrameTime[] => {
  const { refreshMs } = recording.header;
  const stretches = busyIntervals(recording, thread);
  const frames: FrameTime[] = [];
  let next = 0;
  let pictureMs = -Infinity;
  const { startMs: starts, durationMs: lengths, thread: threads } = recording.events.render.columns;
  for (let at = 0; at < starts.length; at++) {
    if (threads[at] !== thread) continue;
    const renderMs = starts[at]!;
    const endMs = renderMs + lengths[at]!;
    while (next < stretches.length && stretches[next]!.endMs < renderMs) next++;
    const busy = stretches[next];
    const busyFromMs = busy === undefined ? renderMs : Math.min(busy.startMs, renderMs);
    const startMs = Math.max(busyFromMs, pictureMs);
    frames.push({ startMs, endMs, missed: Math.max(0, Math.round((endMs - startMs) / refreshMs) - 1) });
    pictureMs = endMs;
  }
  return frames;
});
