import type { RowContent } from '../format/rows';
import type { Recording, TimeRange } from '../recording/recording';

/** An unbroken stretch in which the main thread was not free for an input. */
export interface BusyBlock extends TimeRange {
  readonly thread: number;
}

/**
 * The busy stretches told by long tasks, and by the watchdog where no task was told of any more, as when a page
 * was closed in the middle of a hang.
 * @param minMs shortest stretch of interest
 */
export function busyBlocks(recording: Recording, minMs: number): BusyBlock[] {
  const blocks: BusyBlock[] = [];
  for (const task of recording.events.task.rows()) {
    if (task.durationMs < minMs || isWorker(recording, task.thread)) continue;
    blocks.push({ thread: task.thread, startMs: task.startMs, endMs: task.startMs + task.durationMs });
  }
  for (const hang of longestHangs(recording)) {
    const endMs = hang.startMs + hang.durationMs;
    const isTold = blocks.some((block) => block.startMs < endMs && block.endMs > hang.startMs);
    if (!isTold && hang.durationMs >= minMs)
      blocks.push({ thread: hang.thread, startMs: hang.startMs, endMs });
  }
  return blocks;
}

/** Nobody waits for the thread of a worker. */
function isWorker(recording: Recording, thread: number): boolean {
  return recording.threads.get(thread)?.type === 'worker';
}

/** A hang is told of again and again while it lasts; the last word on each counts. */
function longestHangs(recording: Recording): RowContent<'hang'>[] {
  const longest = new Map<number, RowContent<'hang'>>();
  for (const hang of recording.events.hang.rows()) {
    const before = longest.get(hang.startMs);
    if (before === undefined || before.durationMs <= hang.durationMs) longest.set(hang.startMs, hang);
  }
  return [...longest.values()];
}
