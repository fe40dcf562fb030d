import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

/** The pictures a display asked for, and those it did not get. Numbered as their table is. */
export function syncLane(recording: Recording): Lane | undefined {
  const rows = [...recording.events.sync.rows()];
  return eventLane({
    kind: 'sync',
    title: 'Display sync',
    events: rows.map(({ startMs, durationMs, missed }, ref) => ({
      startMs,
      endMs: startMs + durationMs,
      style: itemStyleCode(missed > 0 ? 'late-frame' : 'frame'),
      ref,
    })),
    mostRows: 1,
    words: (ref) => {
      const { shown, missed } = rows[ref]!;
      return missed > 0 ? `${missed} missed` : `${shown} in time`;
    },
  });
}
