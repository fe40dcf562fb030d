import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

/** What was changed in the page, frame by frame. Numbered as their table is. */
export function redrawsLane(recording: Recording): Lane | undefined {
  const { startMs: starts, changed, inView } = recording.events.redraw.columns;
  return eventLane({
    kind: 'redraws',
    title: 'Redraws',
    events: Array.from(starts, (startMs, ref) => ({
      startMs,
      endMs: startMs,
      style: itemStyleCode(changed[ref] !== 1 ? 'unchanged' : inView[ref] === 1 ? 'changed' : 'out-of-view'),
      ref,
    })),
    mostRows: 2,
    words: () => '',
  });
}
