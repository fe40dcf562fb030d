import { interactionsIn } from '../inputs/interactions';
import type { Recording, TimeRange } from '../recording/recording';
import { scheduleOf } from '../inputs/links';

/** What an idle thread waited for. */
export type IdleReason =
  | { readonly type: 'request'; readonly url: string; readonly startMs: number; readonly endMs: number }
  | { readonly type: 'timer'; readonly delayMs: number; readonly askedMs: number }
  | { readonly type: 'person' }
  /** Nothing recorded tells. */
  | { readonly type: 'unknown' };

/** What ends idleness begins within this after it. */
const NEAR_MS = 5;
const TIMERS = new Set(['timer', 'interval']);

/**
 * Why a thread was idle for a stretch: the requests that were on their way when it ended, the timer that ended it, or
 * nothing but a person who had yet to do something.
 */
export function idleReasons(recording: Recording, thread: number, range: TimeRange): IdleReason[] {
  const reasons: IdleReason[] = [];
  for (const { startMs, durationMs, url } of recording.events.request.overlapping(
    range.startMs,
    range.endMs,
  )) {
    const endMs = startMs + durationMs;
    if (Math.abs(endMs - range.endMs) <= NEAR_MS || endMs > range.endMs) {
      reasons.push({ type: 'request', url, startMs, endMs });
    }
  }
  for (const handler of recording.events.handler.overlapping(range.endMs - NEAR_MS, range.endMs + NEAR_MS)) {
    if (handler.thread !== thread || Math.abs(handler.startMs - range.endMs) > NEAR_MS) continue;
    const schedule = scheduleOf(recording, handler);
    if (schedule?.type === 'request' && !reasons.some(({ type }) => type === 'request')) {
      reasons.push({
        type: 'request',
        url: schedule.url ?? '',
        startMs: schedule.startMs,
        endMs: range.endMs,
      });
    } else if (schedule !== undefined && TIMERS.has(schedule.type)) {
      reasons.push({ type: 'timer', delayMs: schedule.delayMs ?? 0, askedMs: schedule.startMs });
    }
  }
  if (reasons.length > 0) return reasons;
  const near = { startMs: range.endMs - NEAR_MS, endMs: range.endMs + NEAR_MS };
  const isPerson = interactionsIn(recording, near).some(
    ({ startMs }) => Math.abs(startMs - range.endMs) <= NEAR_MS,
  );
  return [{ type: isPerson ? 'person' : 'unknown' }];
}
