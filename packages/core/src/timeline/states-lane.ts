import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

const MAX_ROWS = 2;

/** Routes, visibility, first pictures and the rest of a page's life. Numbered as their table is. */
export function statesLane(recording: Recording): Lane | undefined {
  const states = [...recording.events.state.rows()];
  return eventLane({
    kind: 'states',
    title: 'Route and life cycle',
    events: states.map(({ startMs }, ref) => ({
      startMs,
      endMs: startMs,
      style: itemStyleCode('state'),
      ref,
    })),
    mostRows: MAX_ROWS,
    words: (ref) => `${states[ref]!.type} ${states[ref]!.value}`,
  });
}
