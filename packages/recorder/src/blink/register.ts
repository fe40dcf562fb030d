import { registerCapture } from '../page/capture-registry';
import { memory } from './heap';
import { longFrames } from './long-frames';
import { longTasks } from './long-tasks';
import { sampling } from './sampling';
import { shifts } from './shifts';

/** Offers what one family of engines tells of a page, and no other does. */
export function registerBlink(): void {
  for (const capture of [longTasks, longFrames, sampling, memory, shifts]) registerCapture(capture);
}
