import { memoizedPerRecording } from '../recording/memoize';
import { MAIN_THREAD } from '../recording/recording';
import { activityLane } from './activity-lane';
import { framesLane } from './frames-lane';
import { inputsLane } from './inputs-lane';
import type { Lane } from './lane';
import { memoryLane } from './memory-lane';
import { redrawsLane } from './redraws-lane';
import { requestsLane } from './requests-lane';
import { spansLane } from './spans-lane';
import { statesLane } from './states-lane';
import { syncLane } from './sync-lane';
import { threadLane } from './thread-lane';

/** The lanes of a recording that have something in them, in the order they are shown at first. */
export const lanesOf = memoizedPerRecording((recording): readonly Lane[] => {
  const threads = new Map([...recording.threads.values()].map(({ id, name }) => [id, name]));
  for (const id of [...recording.calls.keys(), ...recording.samples.keys()]) {
    if (!threads.has(id)) threads.set(id, `thread ${id}`);
  }
  const others = [...threads].filter(([id]) => id !== MAIN_THREAD);
  const lanes = [
    inputsLane(recording),
    framesLane(recording),
    syncLane(recording),
    threadLane(recording, MAIN_THREAD, 'Main thread'),
    ...others.map(([id, name]) => threadLane(recording, id, name)),
    activityLane(recording),
    requestsLane(recording),
    spansLane(recording),
    memoryLane(recording),
    redrawsLane(recording),
    statesLane(recording),
  ];
  return lanes.filter((lane) => lane !== undefined);
});
