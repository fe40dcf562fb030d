import { countText, decimalText } from '../words/figures';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { frameTimes } from '../stings/frame-times';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

/** Pictures of the page against what the display waits for. Numbered as `frameTimes` has them. */
export function framesLane(recording: Recording): Lane | undefined {
  const frames = frameTimes(recording, MAIN_THREAD);
  return eventLane({
    kind: 'frames',
    title: 'Frames',
    events: frames.map(({ startMs, endMs, missed }, ref) => ({
      startMs,
      endMs,
      style: itemStyleCode(missed >= 1 ? 'late-frame' : 'frame'),
      ref,
    })),
    mostRows: 1,
    words: (ref) => {
      const { startMs, endMs, missed } = frames[ref]!;
      const lengthMs = endMs - startMs;
      return missed >= 1 ? `${countText(lengthMs)} ms, ${missed} missed` : `${decimalText(lengthMs, 1)} ms`;
    },
  });
}
