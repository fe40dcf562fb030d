import { canonicalFunction } from '../attribution/call-path';
import { busyIntervals } from '../stings/busy-intervals';
import { handlersIn, type Handler } from '../inputs/links';
import type { Recording, TimeRange } from '../recording/recording';
import { firstIndex } from '../statistics/search';

/** A busy stretch of the thread that an input had to wait for. */
export interface InTheWay extends TimeRange {
  /** When it began, which may be before the input. Milliseconds. */
  readonly beganMs: number;
  /** How its longest entry into script came, such as "timer"; undefined where no entry is known. */
  readonly entry?: string;
  /** The function entered. */
  readonly functionId?: number;
}

/** Shorter stretches are none that one waits for. Milliseconds. */
const MIN_MS = 1;

/** What stood in the way while an input waited, in order of time; each clipped to the waiting. */
export function inTheWay(
  recording: Recording,
  thread: number,
  phases: readonly (TimeRange & { readonly name: string })[],
): InTheWay[] {
  return phases
    .filter(({ name }) => name === 'waiting')
    .flatMap((waiting) => {
      const entries = handlersIn(recording, thread, waiting);
      return busyWithin(recording, thread, waiting).map((busy) => stretch(recording, busy, waiting, entries));
    });
}

function busyWithin(recording: Recording, thread: number, { startMs, endMs }: TimeRange): TimeRange[] {
  const all = busyIntervals(recording, thread);
  const first = firstIndex(all.length, (at) => all[at]!.endMs > startMs);
  const end = firstIndex(all.length, (at) => all[at]!.startMs >= endMs);
  return all
    .slice(first, end)
    .filter((busy) => Math.min(busy.endMs, endMs) - Math.max(busy.startMs, startMs) >= MIN_MS);
}

/** @param entries those into script during the waiting, in order of time */
function stretch(
  recording: Recording,
  busy: TimeRange,
  waiting: TimeRange,
  entries: readonly Handler[],
): InTheWay {
  const startMs = Math.max(busy.startMs, waiting.startMs);
  const endMs = Math.min(busy.endMs, waiting.endMs);
  const first = firstIndex(entries.length, (at) => entries[at]!.startMs >= startMs);
  const end = firstIndex(entries.length, (at) => entries[at]!.startMs >= endMs);
  // Of those that began before the stretch only the last can reach into it: entries follow each other.
  const longest = entries
    .slice(Math.max(0, first - 1), end)
    .filter((one) => one.startMs + one.durationMs > startMs)
    .reduce<Handler | undefined>(
      (best, one) => (best === undefined || one.durationMs > best.durationMs ? one : best),
      undefined,
    );
  return {
    startMs,
    endMs,
    beganMs: busy.startMs,
    ...(longest === undefined ? {} : { entry: longest.invoker }),
    ...(longest?.function === undefined
      ? {}
      : { functionId: canonicalFunction(recording, longest.function) }),
  };
}
