import { RESERVED_PATH } from '@nettle-patch/core';
import { plainAddress } from '../address';
import { defined } from '../interned';
import { observedCapture } from './observed';

/** Requests the page made (W3C Resource Timing): when, for what, how large; never their content. */
export const requests = observedCapture<PerformanceResourceTiming>('resource', (entry, session) => {
  if (new URL(entry.name).pathname.startsWith(RESERVED_PATH)) return;
  session.emit({
    kind: 'request',
    thread: session.thread,
    startMs: session.time(entry.startTime),
    durationMs: Math.round(entry.duration * 1000) / 1000,
    url: plainAddress(entry.name),
    initiator: entry.initiatorType,
    ...defined({
      responseStartMs: entry.responseStart > 0 ? session.time(entry.responseStart) : undefined,
      bytes: entry.transferSize > 0 ? entry.transferSize : undefined,
      status: entry.responseStatus || undefined,
    }),
  });
});
