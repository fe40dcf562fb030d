import type { RowContent } from '../format/rows';
import { appendTo } from '../recording/group';
import { oncePerRecording } from '../recording/once';
import type { Recording } from '../recording/recording';

export type Handler = RowContent<'handler'>;
export type Schedule = RowContent<'schedule'>;

interface Links {
  readonly handlers: ReadonlyMap<number, Handler>;
  readonly schedules: ReadonlyMap<number, Schedule>;
  /** What each handler asked for, by its id, in order of time. */
  readonly asked: ReadonlyMap<number, readonly Schedule[]>;
  /** Handlers that came of each schedule, by its id, in order of time. */
  readonly cameOf: ReadonlyMap<number, readonly Handler[]>;
}

/** The rows that others refer to, by their ids, in both directions. */
export const linksOf = oncePerRecording(({ events }): Links => {
  const handlers = new Map<number, Handler>();
  const cameOf = new Map<number, Handler[]>();
  for (const row of events.handler.rows()) {
    if (row.id !== undefined) handlers.set(row.id, row);
    if (row.schedule !== undefined) appendTo(cameOf, row.schedule, row);
  }
  const schedules = new Map<number, Schedule>();
  const asked = new Map<number, Schedule[]>();
  for (const row of events.schedule.rows()) {
    schedules.set(row.id, row);
    if (row.by !== undefined) appendTo(asked, row.by, row);
  }
  return { handlers, schedules, asked, cameOf };
});

/** The handler with an id. */
export function handlerOf(recording: Recording, id: number): Handler | undefined {
  return linksOf(recording).handlers.get(id);
}

/** The schedule that led to a handler, where it is known. */
export function scheduleOf(recording: Recording, { schedule }: Handler): Schedule | undefined {
  return schedule === undefined ? undefined : linksOf(recording).schedules.get(schedule);
}
