import { canonicalFunction } from '../attribution/call-path';
import { displayName } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** @param name of the function that forced it, where it is known */
export function forcedLabel(name: string | undefined): string {
  return `Layout forced by ${name ?? 'script'}`;
}

/** Places that made the browser lay out again and again inside one task. */
export function findForcedLayouts(recording: Recording, thresholds: Thresholds): Sting[] {
  const stings: Sting[] = [];
  for (const row of recording.events.forced.rows()) {
    if (row.thread !== MAIN_THREAD) continue;
    if (row.count < thresholds.forcedTimes || row.costMs < thresholds.forcedMs) continue;
    const functionId = row.function === undefined ? undefined : canonicalFunction(recording, row.function);
    const name = functionId === undefined ? undefined : displayName(recording.functions.get(functionId));
    stings.push({
      kind: 'forced-layout',
      also: [],
      thread: MAIN_THREAD,
      label: forcedLabel(name),
      startMs: row.startMs,
      endMs: row.startMs + row.durationMs,
      feltMs: row.costMs,
      budgetMs: thresholds.forcedMs,
      detail: { type: 'forced-layout', functionId, count: row.count, read: row.read },
    });
  }
  return stings;
}
