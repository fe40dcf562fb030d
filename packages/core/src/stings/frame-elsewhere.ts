import type { Recording, TimeRange } from '../recording/recording';

/** The frame of another origin in which the thread was busy for most of a range, as the engine tells of its tasks. */
export function frameElsewhere(recording: Recording, thread: number, range: TimeRange): string | undefined {
  for (const task of recording.events.task.overlapping(range.startMs, range.endMs)) {
    if (task.thread !== thread || task.within === undefined) continue;
    const endMs = Math.min(task.startMs + task.durationMs, range.endMs);
    if (endMs - Math.max(task.startMs, range.startMs) > (range.endMs - range.startMs) / 2) return task.within;
  }
  return undefined;
}
