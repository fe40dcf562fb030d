import type { Capture } from './capture';
import { eventTiming } from './event-timing';
import { inputListeners } from './input-listeners';
import { longFrames } from './long-frames';
import { longTasks } from './long-tasks';
import { requests } from './requests';
import { sampling } from './sampling';
import { marks, measures } from './user-timing';
import { visibility } from './visibility';

/** Everything that can be captured, each from its own module; where the engine lacks one, what replaces it. */
export function allCaptures(): Capture[] {
  const inputs = eventTiming();
  const replaced = inputs.available ? [inputs] : [inputs, inputListeners()];
  return [...replaced, longTasks, longFrames, sampling(), marks, measures, requests, visibility()];
}
