import type { Capture } from './capture';
import { eventTiming } from './event-timing';
import { longFrames } from './long-frames';
import { longTasks } from './long-tasks';
import { requests } from './requests';
import { sampling } from './sampling';
import { marks, measures } from './user-timing';
import { visibility } from './visibility';

/** Everything that can be captured, each from its own module. */
export function allCaptures(): Capture[] {
  return [eventTiming(), longTasks, longFrames, sampling(), marks, measures, requests, visibility()];
}
