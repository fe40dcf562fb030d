import { interactionsIn } from '../inputs/interactions';
import { canonicalFunction } from '../attribution/call-path';
import { linksOf, scheduleOf, type Handler, type Schedule } from '../inputs/links';
import type { Recording, TimeRange } from '../recording/recording';
import { originalPath } from '../recording/original-path';
import { handlersIn } from '../inputs/links';

/** An answer and the listener that gave it may be told of to different steps of the clock. */
const NEAR_MS = 1;

/** One link of the chain from an input to what it led to. */
export type CauseLink =
  /** What a person did. */
  | { readonly type: 'input'; readonly label: string; readonly startMs: number }
  /** An entry into script. */
  | {
      readonly type: 'handler';
      readonly startMs: number;
      readonly durationMs: number;
      readonly entry: string;
      readonly functionId: number | undefined;
    }
  /** What the entry before it asked for. */
  | {
      readonly type: 'schedule';
      readonly startMs: number;
      /** "timer", "interval", "frame", "idle", "message", "microtask", "request" or "observer". */
      readonly what: string;
      readonly delayMs: number | undefined;
      readonly url: string | undefined;
      readonly functionId: number | undefined;
    };

/** What was asked for, in words: "the answer to api/departures", "a timer of 4000 ms". */
export function askedWords({ type, delayMs, url }: Pick<Schedule, 'type' | 'delayMs' | 'url'>): string {
  if (url !== undefined) return `the answer to ${originalPath(url)}`;
  return `a ${type === 'interval' ? 'timer' : type}${delayMs === undefined ? '' : ` of ${delayMs} ms`}`;
}

/** The input a listener answers, where it answers one. */
function inputOf(recording: Recording, handler: Handler): CauseLink | undefined {
  if (handler.type !== 'event-listener') return undefined;
  const endMs = handler.startMs + handler.durationMs;
  const near = { startMs: handler.startMs - NEAR_MS, endMs: endMs + NEAR_MS };
  const interaction = interactionsIn(recording, near).find(
    ({ thread, processingStartMs, processingEndMs }) =>
      thread === handler.thread && handler.startMs <= processingEndMs && endMs >= processingStartMs,
  );
  return interaction && { type: 'input', label: interaction.label, startMs: interaction.startMs };
}

/**
 * How a handler came to run: from what a person did, or the first entry known, through everything that was scheduled
 * on the way. The last link is the handler itself.
 */
export function causeChain(recording: Recording, handler: Handler): CauseLink[] {
  const { handlers } = linksOf(recording);
  const functionOf = (id: number | undefined) =>
    id === undefined ? undefined : canonicalFunction(recording, id);
  const links: CauseLink[] = [];
  const met = new Set<Handler>();
  for (let at: Handler | undefined = handler; at !== undefined && !met.has(at);) {
    met.add(at);
    const { startMs, durationMs, invoker } = at;
    links.unshift({
      type: 'handler',
      startMs,
      durationMs,
      entry: invoker,
      functionId: functionOf(at.function),
    });
    const schedule: Schedule | undefined = scheduleOf(recording, at);
    if (schedule === undefined) {
      const input = inputOf(recording, at);
      if (input !== undefined) links.unshift(input);
      break;
    }
    const { type: what, delayMs, url } = schedule;
    links.unshift({
      type: 'schedule',
      startMs: schedule.startMs,
      what,
      delayMs,
      url,
      functionId: functionOf(schedule.function),
    });
    at = schedule.by === undefined ? undefined : handlers.get(schedule.by);
  }
  return links;
}

/** How the longest entry into script in a range came to run; empty where there was none. */
export function causeInRange(recording: Recording, thread: number, range: TimeRange): CauseLink[] {
  const [longest] = handlersIn(recording, thread, range).sort((a, b) => b.durationMs - a.durationMs);
  return longest === undefined ? [] : causeChain(recording, longest);
}
