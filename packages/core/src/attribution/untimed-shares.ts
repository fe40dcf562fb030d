import { memoizedPerThread } from '../recording/memoize';
import type { Recording, TimeRange } from '../recording/recording';
import { KIND_CODES, kindOfCode } from './segments';
import { selfTimesOf } from './self-times';

/**
 * Of an entry into script, the shares of its script time that were style and layout, or a dialog, where only their
 * amount is known and not their place.
 */
export interface UntimedShares extends TimeRange {
  /** Style and layout, 0 to 1. */
  readonly forced: number;
  /** Dialogs, 0 to 1; both together are at most 1. */
  readonly dialog: number;
}

interface Timed {
  /** Time that exact calls and the render probe account for. Milliseconds. */
  allMs: number;
  /** Of that, style and layout. */
  layoutMs: number;
  dialogMs: number;
}

function timedIn(recording: Recording, thread: number, range: TimeRange): Timed {
  const timed: Timed = { allMs: 0, layoutMs: 0, dialogMs: 0 };
  const sums = new Float64Array(KIND_CODES);
  selfTimesOf(recording, thread).addTo(sums, range);
  sums.forEach((ms, code) => {
    if (ms === 0) return;
    const { activity } = kindOfCode(code);
    timed.allMs += ms;
    if (activity === 'style' || activity === 'layout') timed.layoutMs += ms;
    if (activity === 'dialog') timed.dialogMs += ms;
  });
  const { startMs, styleMs, layoutMs, thread: threads } = recording.events.render.columns;
  recording.events.render.eachOverlapping(range.startMs, range.endMs, (at) => {
    if (threads[at] !== thread) return;
    const endMs = startMs[at]! + styleMs[at]! + layoutMs[at]!;
    const ms = Math.max(0, Math.min(endMs, range.endMs) - Math.max(startMs[at]!, range.startMs));
    timed.allMs += ms;
    timed.layoutMs += ms;
  });
  return timed;
}

/**
 * A range in parts that no entry begins or ends within: an entry inside of another has the same share of what is at an
 * unknown place as the rest, however that is filled with samples.
 */
function cutAtEntries(recording: Recording, thread: number, range: TimeRange): TimeRange[] {
  const { startMs: starts, durationMs, thread: threads } = recording.events.handler.columns;
  const cuts = new Set([range.endMs]);
  recording.events.handler.eachOverlapping(range.startMs, range.endMs, (at) => {
    if (threads[at] !== thread) return;
    for (const ms of [starts[at]!, starts[at]! + durationMs[at]!])
      if (ms > range.startMs && ms < range.endMs) cuts.add(ms);
  });
  let startMs = range.startMs;
  return [...cuts]
    .sort((a, b) => a - b)
    .map((endMs) => {
      const part = { startMs, endMs };
      startMs = endMs;
      return part;
    });
}

/**
 * The shares of all entries of a thread that have any, in order of time and without overlap. What was timed at its
 * place is taken off the amounts first, so that nothing counts twice.
 */
export const untimedShares = memoizedPerThread((recording, thread): readonly UntimedShares[] => {
  const { handler } = recording.events;
  const { startMs: starts, durationMs, thread: threads, forcedMs, pauseMs } = handler.columns;
  const found: UntimedShares[] = [];
  let atMs = -Infinity;
  for (let at = 0; at < handler.length; at++) {
    const forced = forcedMs[at]! > 0 ? forcedMs[at]! : 0;
    const pause = pauseMs[at]! > 0 ? pauseMs[at]! : 0;
    if (threads[at] !== thread || (forced === 0 && pause === 0)) continue;
    const range = { startMs: Math.max(atMs, starts[at]!), endMs: starts[at]! + durationMs[at]! };
    if (range.endMs <= range.startMs) continue;
    const timed = timedIn(recording, thread, range);
    const leftMs = range.endMs - range.startMs - timed.allMs;
    if (leftMs <= 0) continue;
    const dialog = Math.min(1, Math.max(0, pause - timed.dialogMs) / leftMs);
    const layout = Math.min(1 - dialog, Math.max(0, forced - timed.layoutMs) / leftMs);
    if (dialog + layout <= 0) continue;
    for (const part of cutAtEntries(recording, thread, range))
      found.push({ ...part, forced: layout, dialog });
    atMs = range.endMs;
  }
  return found;
});
