import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { itemStyleCode, type ItemStyle } from './item-styles';

const MAX_ROWS = 6;
const STYLE_OF: Readonly<Record<string, ItemStyle>> = { mark: 'mark', note: 'note' };

/** Marks and measures of the app, and marks set by hand while recording. Numbered as their table is. */
export function spansLane(recording: Recording): Lane | undefined {
  const spans = [...recording.events.span.rows()];
  return eventLane({
    kind: 'spans',
    title: 'Named spans',
    events: spans.map(({ startMs, durationMs, type }, ref) => ({
      startMs,
      endMs: startMs + durationMs,
      style: itemStyleCode(STYLE_OF[type] ?? 'span'),
      ref,
    })),
    mostRows: MAX_ROWS,
    words: (ref) => spans[ref]!.name,
  });
}
