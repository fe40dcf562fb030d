import type { Capture } from '../page/capture/capture';
import { defined } from '../page/interned';
import type { Lent } from '../page/capture-registry';

/** Tasks over 50 ms (W3C Long Tasks); of those in frames of other origins, which are not recorded, where there is one. */
export function longTasks({ observedCapture, framesElsewhere }: Lent): Capture {
  return observedCapture('longtask', ({ name, startTime, duration }, session) => {
    const frames = name.startsWith('cross') ? framesElsewhere() : [];
    const within = frames.length > 1 ? 'a frame of another origin' : frames[0];
    session.lasted('task', startTime, duration, { source: 'longtask', ...defined({ within }) });
  });
}
