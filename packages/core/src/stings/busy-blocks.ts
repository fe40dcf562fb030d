import type { Recording, TimeRange } from '../recording/recording';

/** An unbroken stretch in which the main thread was not free for an input. */
export interface BusyBlock extends TimeRange {
  readonly thread: number;
}

/**
 * The busy stretches told by long tasks.
 * @param minMs shortest stretch of interest
 */
export function busyBlocks(recording: Recording, minMs: number): BusyBlock[] {
  const blocks: BusyBlock[] = [];
  for (const task of recording.events.task.rows()) {
    if (task.durationMs < minMs) continue;
    blocks.push({ thread: task.thread, startMs: task.startMs, endMs: task.startMs + task.durationMs });
  }
  return blocks;
}
