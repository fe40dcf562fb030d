import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { lookCode, type Look } from './looks';

const MOST_ROWS = 6;
const LOOK_OF: Readonly<Record<string, Look>> = { mark: 'mark', note: 'note' };

/** Marks and measures of the app, and marks set by hand while recording. Numbered as their table is. */
export function spansLane(recording: Recording): Lane | undefined {
  const spans = [...recording.events.span.rows()];
  return eventLane({
    kind: 'spans',
    title: 'Named spans',
    events: spans.map(({ startMs, durationMs, type }, ref) => ({
      startMs,
      endMs: startMs + durationMs,
      look: lookCode(LOOK_OF[type] ?? 'span'),
      ref,
    })),
    mostRows: MOST_ROWS,
    words: (ref) => spans[ref]!.name,
  });
}
