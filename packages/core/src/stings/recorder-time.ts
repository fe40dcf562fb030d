import { partition } from '../attribution/partition';
import { innermostFunction } from '../attribution/stack-facts';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording, TimeRange } from '../recording/recording';
import { isRecorderFunction, isRecorderSource } from '../sources/recorder-functions';

/** Whether any function of a recording is the recorder's. */
const hasRecorder = memoizedPerRecording((recording) =>
  [...recording.sources.values()].some((source) => isRecorderSource(source)),
);

/**
 * Time of the recorder's own script in a range. What the browser did inside of it, as the render probe times style and
 * layout that were due anyway, is none of it. Milliseconds.
 */
export function recorderMs(recording: Recording, thread: number, range: TimeRange): number {
  if (!hasRecorder(recording)) return 0;
  let sum = 0;
  for (const segment of partition(recording, thread, range)) {
    if (segment.activity !== 'script') continue;
    const innermost = innermostFunction(recording, segment);
    if (innermost !== undefined && isRecorderFunction(recording, innermost)) {
      sum += segment.endMs - segment.startMs;
    }
  }
  return sum;
}
