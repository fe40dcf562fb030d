import type { RowContent } from '../format/rows';
import { appendTo } from '../recording/group';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording, TimeRange } from '../recording/recording';

export type Handler = RowContent<'handler'>;
export type Schedule = RowContent<'schedule'>;

interface Links {
  readonly handlers: ReadonlyMap<number, Handler>;
  readonly schedules: ReadonlyMap<number, Schedule>;
  /** Messages that went from one thread to another. */
  readonly messages: ReadonlyMap<string, Schedule>;
  /** What each handler asked for, by its id, in order of time. */
  readonly asked: ReadonlyMap<number, readonly Schedule[]>;
  /** Handlers that came of each schedule, by its id, in order of time. */
  readonly cameOf: ReadonlyMap<number, readonly Handler[]>;
}

const messageKey = (from: number, to: number, nth: number) => `${from} ${to} ${nth}`;

/** The message from another thread that a handler answers. */
function messageOf(
  { messages }: Pick<Links, 'messages'>,
  { thread, from, nth }: Handler,
): Schedule | undefined {
  return from === undefined || nth === undefined ? undefined : messages.get(messageKey(from, thread, nth));
}

/** The rows that others refer to, by their ids, in both directions; and the two ends of each message between threads. */
export const linksOf = memoizedPerRecording(({ events }): Links => {
  const schedules = new Map<number, Schedule>();
  const messages = new Map<string, Schedule>();
  const asked = new Map<number, Schedule[]>();
  for (const row of events.schedule.rows()) {
    schedules.set(row.id, row);
    if (row.by !== undefined) appendTo(asked, row.by, row);
    if (row.to !== undefined && row.nth !== undefined)
      messages.set(messageKey(row.thread, row.to, row.nth), row);
  }
  const handlers = new Map<number, Handler>();
  const cameOf = new Map<number, Handler[]>();
  for (const row of events.handler.rows()) {
    if (row.id !== undefined) handlers.set(row.id, row);
    const led = row.schedule ?? messageOf({ messages }, row)?.id;
    if (led !== undefined) appendTo(cameOf, led, row);
  }
  return { handlers, schedules, messages, asked, cameOf };
});

/** The handler with an id. */
export function handlerOf(recording: Recording, id: number): Handler | undefined {
  return linksOf(recording).handlers.get(id);
}

/** The schedule that led to a handler, or the message from another thread, where it is known. */
export function scheduleOf(recording: Recording, handler: Handler): Schedule | undefined {
  const links = linksOf(recording);
  return handler.schedule === undefined ? messageOf(links, handler) : links.schedules.get(handler.schedule);
}

/** Entries into script that overlap a range, in order of time. */
export function handlersIn(recording: Recording, thread: number, range: TimeRange): Handler[] {
  const overlapping = recording.events.handler.overlapping(range.startMs, range.endMs);
  return [...overlapping].filter((handler) => handler.thread === thread);
}
