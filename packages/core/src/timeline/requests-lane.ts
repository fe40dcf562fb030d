import type { Recording } from '../recording/recording';
import { originalPath } from '../recording/original-path';
import { eventLane } from './event-lane';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

const MAX_ROWS = 6;
const FIRST_BAD_STATUS = 400;

/** Requests from the asking to the last byte. Numbered as their table is. */
export function requestsLane(recording: Recording): Lane | undefined {
  const requests = [...recording.events.request.rows()];
  return eventLane({
    kind: 'requests',
    title: 'Requests',
    events: requests.map(({ startMs, durationMs, status = 0 }, ref) => ({
      startMs,
      endMs: startMs + durationMs,
      style: itemStyleCode(status >= FIRST_BAD_STATUS ? 'failed' : 'request'),
      ref,
    })),
    mostRows: MAX_ROWS,
    words: (ref) => originalPath(requests[ref]!.url) || requests[ref]!.url,
  });
}
