import { MAIN_THREAD, type Recording } from '../recording/recording';
import { DrawnWriter } from './drawn-items';
import { EventRows } from './event-rows';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';
import { firstIndex } from '../statistics/search';

const FULL = 255;

/**
 * Memory in use by script as steps, each as high as its reading, and collections as marks in a second row. Readings are
 * numbered as their table is, from 0; collections from -2 downwards.
 */
export function memoryLane(recording: Recording): Lane | undefined {
  const { startMs: times, usedKb } = recording.events.memory.columns;
  const collections = recording.events.collection.columns.startMs;
  if (times.length === 0 && collections.length === 0) return undefined;
  const mostKb = Array.from(usedKb).reduce((most, kb) => Math.max(most, kb), 1);
  const marks = Array.from(collections, (startMs, at) => ({
    startMs,
    endMs: startMs,
    style: itemStyleCode('collection'),
    ref: -2 - at,
  }));
  const collected = new EventRows(marks, 1);
  const { endMs: lastMs } = recording.range;
  const firstAfter = (ms: number) => firstIndex(times.length, (at) => times[at]! > ms);
  return {
    id: 'memory',
    kind: 'memory',
    title: 'Memory',
    thread: MAIN_THREAD,
    rows: marks.length > 0 ? 2 : 1,
    count: times.length + collections.length,
    draw(range, pixels) {
      const writer = new DrawnWriter(range, pixels, () => '');
      for (let at = Math.max(0, firstAfter(range.startMs) - 1); at < times.length;) {
        const startMs = times[at]!;
        if (startMs >= range.endMs) break;
        const next = Math.max(at + 1, firstAfter(startMs + writer.pixelMs));
        const filled = Math.round((usedKb[at]! / mostKb) * FULL);
        writer.push({
          startMs,
          endMs: times[next] ?? lastMs,
          row: 0,
          style: itemStyleCode('memory'),
          filled,
          ref: at,
        });
        at = next;
      }
      collected.draw(writer, 1);
      return writer.items();
    },
    at(ms, row, withinMs) {
      if (row > 0) return collected.at(ms, 0, withinMs);
      const at = firstAfter(ms) - 1;
      return at >= 0 ? at : undefined;
    },
  };
}
