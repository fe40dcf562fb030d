import type { DrawnWriter } from './drawn-items';
import { firstIndex } from '../statistics/search';

/** Something that lasts from one time to another, or happens at one. */
export interface TimelineEvent {
  readonly startMs: number;
  readonly endMs: number;
  /** Place in ITEM_STYLES. */
  readonly style: number;
  /** What it is, as the lane numbers its items. */
  readonly ref: number;
}

/** Of the items in one pixel no more than these are looked at for the style that wins. */
const LOOKED_AT = 64;
const FULL = 255;

/** The events of one row: none overlaps the next. */
class EventRow {
  readonly #startsMs: Float64Array;
  readonly #endsMs: Float64Array;
  readonly #styles: Uint8Array;
  readonly #refs: Int32Array;

  /** @param events in order of start; one that lasts into the next is cut where that begins */
  constructor(events: readonly TimelineEvent[]) {
    this.#startsMs = Float64Array.from(events, ({ startMs }) => startMs);
    this.#endsMs = Float64Array.from(events, ({ endMs }, at) =>
      Math.min(endMs, events[at + 1]?.startMs ?? Infinity),
    );
    this.#styles = Uint8Array.from(events, ({ style }) => style);
    this.#refs = Int32Array.from(events, ({ ref }) => ref);
  }

  draw(row: number, writer: DrawnWriter): void {
    const { range, pixelMs } = writer;
    let at = firstReaching(this.#endsMs, range.startMs);
    while (at < this.#startsMs.length && this.#startsMs[at]! < range.endMs) {
      const startMs = this.#startsMs[at]!;
      let endMs = this.#endsMs[at]!;
      let next = at + 1;
      if (endMs - startMs < pixelMs) {
        endMs = startMs + pixelMs;
        next = this.#firstFrom(endMs, at + 1);
        if (next - 1 > at && this.#endsMs[next - 1]! > endMs) next--;
      }
      writer.push({ startMs, endMs, row, style: this.#worst(at, next), filled: FULL, ref: this.#refs[at]! });
      at = next;
    }
  }

  /** The event at a time, or the nearest within a distance. */
  at(ms: number, withinMs: number): number | undefined {
    let best: number | undefined;
    let bestMs = withinMs;
    const first = firstReaching(this.#endsMs, ms - withinMs);
    for (let at = first; at < this.#startsMs.length && this.#startsMs[at]! <= ms + withinMs; at++) {
      const awayMs = Math.max(0, this.#startsMs[at]! - ms, ms - this.#endsMs[at]!);
      if (awayMs > bestMs || (awayMs === bestMs && best !== undefined)) continue;
      best = this.#refs[at]!;
      bestMs = awayMs;
    }
    return best;
  }

  #worst(from: number, to: number): number {
    let worst = 0;
    const step = Math.max(1, Math.floor((to - from) / LOOKED_AT));
    for (let at = from; at < to; at += step) worst = Math.max(worst, this.#styles[at]!);
    return worst;
  }

  /** The first event from a place on that begins at or after a time, found by strides that double. */
  #firstFrom(ms: number, place: number): number {
    const { length } = this.#startsMs;
    let stride = 1;
    while (place + stride < length && this.#startsMs[place + stride]! < ms) stride *= 2;
    return firstIndex(Math.min(length, place + stride), (at) => this.#startsMs[at]! >= ms, place);
  }
}

function firstReaching(endsMs: Float64Array, ms: number): number {
  return firstIndex(endsMs.length, (at) => endsMs[at]! >= ms);
}

/** Whether an event may stand behind another in its row. What has no length needs its moment for itself. */
function hasRoom(last: TimelineEvent, event: TimelineEvent): boolean {
  const haveLength = last.endMs > last.startMs && event.endMs > event.startMs;
  return haveLength ? last.endMs <= event.startMs : last.endMs < event.startMs;
}

/** Events of any kind, laid out in rows so that none hides another, and drawn in time that depends on the pixels. */
export class EventRows {
  readonly #rows: readonly EventRow[];

  /**
   * @param events in any order
   * @param most rows; where more events overlap, the last row shows the beginnings of those that have no room
   */
  constructor(events: readonly TimelineEvent[], most: number) {
    const rows: TimelineEvent[][] = [];
    for (const event of [...events].sort((a, b) => a.startMs - b.startMs)) {
      let row = rows.findIndex((placed) => hasRoom(placed.at(-1)!, event));
      if (row < 0) row = Math.min(rows.length, most - 1);
      (rows[row] ??= []).push(event);
    }
    this.#rows = rows.map((row) => new EventRow(row));
  }

  get rows(): number {
    return this.#rows.length;
  }

  /** @param firstRow row of the lane in which the first of these rows stands */
  draw(writer: DrawnWriter, firstRow = 0): void {
    this.#rows.forEach((row, at) => row.draw(firstRow + at, writer));
  }

  /** What stands in a row at a time, or within a distance of it. */
  at(ms: number, row: number, withinMs: number): number | undefined {
    return this.#rows[row]?.at(ms, withinMs);
  }
}
