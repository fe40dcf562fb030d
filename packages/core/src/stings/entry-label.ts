import type { RowContent } from '../format/rows';
import { originalPath } from '../sources/original-path';
import { displayName } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';

type Handler = RowContent<'handler'>;

const ENTRY_NAMES: Record<string, string> = {
  'user-callback': 'Callback',
  'event-listener': 'Listener',
  'resolve-promise': 'Promise callback',
  'reject-promise': 'Promise callback',
  'classic-script': 'Script',
  'module-script': 'Script',
};

/** Entries into script that overlap a range, in order of time. */
export function handlersIn(recording: Recording, thread: number, range: TimeRange): Handler[] {
  const overlapping = recording.events.handler.overlapping(range.startMs, range.endMs);
  return [...overlapping].filter((handler) => handler.thread === thread);
}

function entryName(handler: Handler): string {
  if (handler.invoker.startsWith('TimerHandler:')) return 'Timer';
  if (handler.invoker.startsWith('FrameRequestCallback')) return 'Frame callback';
  return ENTRY_NAMES[handler.type] ?? 'Script';
}

/** A label for busy time nobody asked for: "Timer pollDepartures". */
export function entryLabel(recording: Recording, thread: number, range: TimeRange): string {
  const handlers = handlersIn(recording, thread, range);
  if (handlers.length === 0) return 'Work of the browser or short scripts';
  const longest = handlers.reduce((a, b) => (b.durationMs > a.durationMs ? b : a));
  const entered = longest.function === undefined ? undefined : recording.functions.get(longest.function);
  const name = displayName(entered);
  if (longest.invoker.startsWith('fetch ')) return `Answer to ${originalPath(longest.invoker.slice(6))}`;
  return name === '(anonymous)'
    ? `${entryName(longest)} of ${longest.invoker}`
    : `${entryName(longest)} ${name}`;
}
