import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import { isUnchanged, isUnseen } from '../recording/redraw-effect';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

/** What was changed in the page, frame by frame. Numbered as their table is. */
export function redrawsLane(recording: Recording): Lane | undefined {
  const { columns } = recording.events.redraw;
  return eventLane({
    kind: 'redraws',
    title: 'Redraws',
    events: Array.from(columns.startMs, (startMs, ref) => ({
      startMs,
      endMs: startMs,
      style: itemStyleCode(
        isUnchanged(columns, ref) ? 'unchanged' : isUnseen(columns, ref) ? 'out-of-view' : 'changed',
      ),
      ref,
    })),
    mostRows: 2,
    words: () => '',
  });
}
