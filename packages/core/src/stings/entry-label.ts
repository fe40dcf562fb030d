import type { RowContent } from '../format/rows';
import { originalPath } from '../sources/original-path';
import { displayName } from '../recording/functions';
import { RESERVED_PATH } from '../relay/paths';
import type { Recording, TimeRange } from '../recording/recording';

/** Invokers that say no more than the kind of entry does. */
const TOLD_BY_ENTRY = /^(FrameRequestCallback|TimerHandler:.*|IdleRequestCallback)$/;

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

/** The longest entry; one whose function is known where it is not much shorter. */
function namingHandler(handlers: readonly Handler[]): Handler {
  const longer = (a: Handler, b: Handler) => (b.durationMs > a.durationMs ? b : a);
  const longest = handlers.reduce(longer);
  const known = handlers.filter((handler) => handler.function !== undefined);
  const [first, ...others] = known;
  if (first === undefined) return longest;
  const named = others.reduce(longer, first);
  return named.durationMs >= longest.durationMs / 2 ? named : longest;
}

const isScript = ({ type }: Handler) => type === 'classic-script' || type === 'module-script';

/** A label for busy time nobody asked for: "Timer pollDepartures". */
export function entryLabel(recording: Recording, thread: number, range: TimeRange): string {
  const handlers = handlersIn(recording, thread, range);
  if (handlers.length === 0) return 'Work of the browser or short scripts';
  const longest = namingHandler(handlers);
  const entered = longest.function === undefined ? undefined : recording.functions.get(longest.function);
  const name = displayName(entered);
  if (longest.invoker.startsWith('fetch ')) return `Answer to ${originalPath(longest.invoker.slice(6))}`;
  if (longest.invoker.includes(RESERVED_PATH)) return 'Start of the recorder';
  if (name !== '(anonymous)') return `${entryName(longest)} ${name}`;
  return TOLD_BY_ENTRY.test(longest.invoker)
    ? entryName(longest)
    : `${entryName(longest)} ${isScript(longest) ? originalPath(longest.invoker) : `of ${longest.invoker}`}`;
}
