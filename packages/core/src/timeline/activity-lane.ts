import { MAIN_THREAD, type Recording } from '../recording/recording';
import { DrawnWriter } from './drawn-items';
import { EventRows } from './event-rows';
import type { Lane } from './lane';
import { itemStyleCode, type ItemStyle } from './item-styles';

const STYLE_OF: Readonly<Record<string, ItemStyle>> = {
  running: 'own',
  waiting: 'waiting',
  blocked: 'long-task',
};

/** Whether threads ran, waited or were blocked, a row for each thread. Numbered as their table is. */
export function activityLane(recording: Recording): Lane | undefined {
  const rows = [...recording.events.activity.rows()];
  if (rows.length === 0) return undefined;
  const threads = [...new Set(rows.map(({ thread }) => thread))].sort((a, b) => a - b);
  const nameOf = (thread: number) => recording.threads.get(thread)?.name ?? `thread ${thread}`;
  const events = rows.map(({ startMs, durationMs, state }, ref) => ({
    startMs,
    endMs: startMs + durationMs,
    style: itemStyleCode(STYLE_OF[state] ?? 'other'),
    ref,
  }));
  const byThread = threads.map(
    (thread) =>
      new EventRows(
        events.filter(({ ref }) => rows[ref]!.thread === thread),
        1,
      ),
  );
  const words = (ref: number) => {
    const { thread, state, on } = rows[ref]!;
    return `${nameOf(thread)} ${state}${on === undefined ? '' : ` on ${on}`}`;
  };
  return {
    id: 'activity',
    kind: 'activity',
    title: 'Thread states',
    thread: MAIN_THREAD,
    rows: threads.length,
    count: rows.length,
    draw(range, pixels) {
      const writer = new DrawnWriter(range, pixels, words);
      byThread.forEach((states, row) => states.draw(writer, row));
      return writer.items();
    },
    at: (ms, row, withinMs) => byThread[row]?.at(ms, 0, withinMs),
  };
}
