import { interactionsOf } from '../inputs/interactions';
import { memoizedPerRecording } from '../recording/memoize';
import type { TimeRange } from '../recording/recording';

/** What a person set going is taken to be over this long after the answer. */
const SETTLES_MS = 1000;
const MIN_MS = 1000;
/**
 * Listeners of what a person does all the while, of which Event Timing tells nothing, such as moving the mouse, by how
 * Long Animation Frames name an event's listener. `scroll` is not among them: script scrolls too.
 */
const PERSON =
  /\.on(mouse(move|down|up)|pointer(move|down|up)|touch(start|move|end)|key(down|up|press)|wheel|drag\w*|drop|(dbl)?click|contextmenu|(before)?input|composition\w+)$/;

/** Stretches in which nobody did anything and nothing they did was still being answered. */
export const idleIntervals = memoizedPerRecording((recording): readonly TimeRange[] => {
  const busy: TimeRange[] = interactionsOf(recording).map(({ startMs, feltMs }) => ({
    startMs,
    endMs: startMs + feltMs + SETTLES_MS,
  }));
  const { startMs: starts, durationMs: lengths } = recording.events.input.columns;
  starts.forEach((startMs, at) => busy.push({ startMs, endMs: startMs + lengths[at]! + SETTLES_MS }));
  const isPersons = new Map<string, boolean>();
  for (const { startMs, durationMs, invoker } of recording.events.handler.rows()) {
    if (!isPersons.has(invoker)) isPersons.set(invoker, PERSON.test(invoker));
    if (isPersons.get(invoker)) busy.push({ startMs, endMs: startMs + durationMs + SETTLES_MS });
  }
  for (const { startMs, durationMs } of recording.events.pause.rows()) {
    busy.push({ startMs, endMs: startMs + durationMs });
  }
  busy.push({ startMs: recording.range.endMs, endMs: recording.range.endMs });
  busy.sort((a, b) => a.startMs - b.startMs);
  const quiet: TimeRange[] = [];
  let atMs = recording.header.startUp ? SETTLES_MS : 0;
  for (const { startMs, endMs } of busy) {
    if (startMs - atMs >= MIN_MS) quiet.push({ startMs: atMs, endMs: startMs });
    atMs = Math.max(atMs, endMs);
  }
  return quiet;
});

/** Finds for times that do not go back whether each lies in one of some ranges that follow each other. */
export function withinRanges(ranges: readonly TimeRange[]): (ms: number) => boolean {
  let next = 0;
  return (ms) => {
    while (next < ranges.length && ranges[next]!.endMs <= ms) next++;
    return next < ranges.length && ranges[next]!.startMs <= ms;
  };
}
