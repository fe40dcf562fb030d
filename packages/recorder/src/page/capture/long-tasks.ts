import { observedCapture } from './observed';

/** Tasks over 50 ms (W3C Long Tasks). */
export const longTasks = observedCapture('longtask', (entry, session) => {
  session.lasted('task', entry.startTime, entry.duration, { source: 'longtask' });
});
