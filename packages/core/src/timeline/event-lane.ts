import { MAIN_THREAD } from '../recording/recording';
import { DrawnWriter } from './drawn-items';
import { EventRows, type TimelineEvent } from './event-rows';
import type { Lane, LaneKind } from './lane';

/** What a lane of events is made of. */
export interface EventLaneParts {
  readonly kind: LaneKind;
  readonly title: string;
  readonly thread?: number;
  readonly events: readonly TimelineEvent[];
  readonly mostRows: number;
  /** What an item is called, by its number. */
  readonly words: (ref: number) => string;
}

/** A lane of events, or undefined where there are none. */
export function eventLane(parts: EventLaneParts): Lane | undefined {
  const { kind, title, thread = MAIN_THREAD, events, mostRows, words } = parts;
  if (events.length === 0) return undefined;
  const rows = new EventRows(events, mostRows);
  return {
    id: kind,
    kind,
    title,
    thread,
    rows: rows.rows,
    count: events.length,
    draw(range, pixels) {
      const writer = new DrawnWriter(range, pixels, words);
      rows.draw(writer);
      return writer.items();
    },
    at: (ms, row, withinMs) => rows.at(ms, row, withinMs),
  };
}
