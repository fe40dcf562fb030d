import { observedCapture } from './observed';

/** Tasks over 50 ms (W3C Long Tasks). */
export const longTasks = observedCapture('longtask', (entry, session) => {
  session.emit({
    kind: 'task',
    thread: session.thread,
    startMs: session.time(entry.startTime),
    durationMs: entry.duration,
    source: 'longtask',
  });
});
