import {
  compared,
  lanesOf,
  interactionSlices,
  interactionRowsOf,
  type DrawnItems,
  type Lane,
  type LaneKind,
  type Recording,
  type InteractionRow,
  type InteractionSlice,
  type Sting,
  type TimeRange,
} from '@nettle-patch/core';
import type { ItemOrder } from './item-order';
import { ItemDetailsBuilder } from '../item-details';
import type { ItemCard, ItemDetails } from '../item-details-types';
import { windowSums, type WindowSums } from '../window-sums';

/** A lane as the interface knows it. */
export interface LaneInfo {
  readonly id: string;
  readonly kind: LaneKind;
  readonly title: string;
  readonly thread: number;
  readonly rows: number;
  readonly count: number;
}

/** What to draw of one lane. */
export interface DrawnLane {
  readonly id: string;
  readonly items: DrawnItems;
  /** For each item 1 where it is a call of the chosen function; absent while none is chosen. */
  readonly lit?: Uint8Array;
}

/** What to draw of a range. */
export interface DrawnWindow {
  readonly range: TimeRange;
  readonly pixels: number;
  readonly lanes: readonly DrawnLane[];
}

/** One item as a line of a table. */
export interface ItemLine {
  readonly ref: number;
  readonly startMs: number;
  readonly lengthMs: number;
  readonly words: string;
  readonly row: number;
}

/** Things of a lane, in order. */
export interface ItemLines {
  readonly lines: readonly ItemLine[];
  /** How many were left out: the last of the order. */
  readonly cut: number;
}

/** Pixels for which the items of a table are looked up: finer than any drawing. */
const TABLE_PIXELS = 4000;
const MAX_LINES = 300;

function drawnLane(lane: Lane, range: TimeRange, pixels: number, lit: number | undefined): DrawnLane {
  const items = lane.draw(range, pixels);
  const isCall = lit !== undefined && lane.functionOf !== undefined;
  return {
    id: lane.id,
    items,
    ...(isCall && { lit: Uint8Array.from(items.refs, (ref) => (lane.functionOf!(ref) === lit ? 1 : 0)) }),
  };
}

/** Answers what the time view asks about one recording. */
export class TimelineQueries {
  readonly #teller: ItemDetailsBuilder;
  /** The sum that was asked for last: more than one view may show it. */
  #sums: WindowSums | undefined;

  constructor(
    private readonly recording: Recording,
    stings: readonly Sting[],
  ) {
    this.#teller = new ItemDetailsBuilder(recording, stings);
  }

  lanes(): LaneInfo[] {
    return lanesOf(this.recording).map(({ id, kind, title, thread, rows, count }) => ({
      id,
      kind,
      title,
      thread,
      rows,
      count,
    }));
  }

  /**
   * @param ids of the lanes that are shown
   * @param lit function whose calls are marked
   */
  draw(range: TimeRange, pixels: number, ids: readonly string[], lit?: number): DrawnWindow {
    const lanes = lanesOf(this.recording).filter(({ id }) => ids.includes(id));
    return { range, pixels, lanes: lanes.map((lane) => drawnLane(lane, range, pixels, lit)) };
  }

  /** What stands at a place; where a thread did nothing, why. */
  at(laneId: string, ms: number, row: number, withinMs: number): ItemDetails | undefined {
    const lane = this.#lane(laneId);
    if (lane === undefined) return undefined;
    const ref = lane.at(ms, row, withinMs);
    if (ref !== undefined) return this.#teller.tell(lane, ref);
    return lane.kind === 'thread' ? this.#teller.idle(lane, ms) : undefined;
  }

  /** What a card says of the thing at a place. */
  card(laneId: string, ms: number, row: number, withinMs: number): ItemCard | undefined {
    const lane = this.#lane(laneId);
    const ref = lane?.at(ms, row, withinMs);
    return lane === undefined || ref === undefined ? undefined : this.#teller.card(lane, ref);
  }

  details(laneId: string, ref: number): ItemDetails | undefined {
    const lane = this.#lane(laneId);
    return lane && this.#teller.tell(lane, ref);
  }

  /** The things of a lane in a range, put in order before they are cut. */
  lines(laneId: string, range: TimeRange, { column, isDescending }: ItemOrder): ItemLines {
    const lane = this.#lane(laneId);
    if (lane === undefined) return { lines: [], cut: 0 };
    const { count, startsMs, endsMs, refs, rows } = lane.draw(range, TABLE_PIXELS);
    const brief = (at: number) => this.#teller.brief(lane, refs[at]!);
    const places = Array.from({ length: count }, (_, at) => at);
    const words = column === 'words' ? places.map((at) => brief(at).title) : [];
    const value = {
      startMs: (at: number) => startsMs[at]!,
      lengthMs: (at: number) => endsMs[at]! - startsMs[at]!,
      words: (at: number) => words[at]!,
    }[column];
    const sign = isDescending ? -1 : 1;
    const inOrder = places.sort(
      (a, b) => sign * compared(value(a), value(b)) || startsMs[a]! - startsMs[b]! || rows[a]! - rows[b]!,
    );
    const lines = inOrder.slice(0, MAX_LINES).map((at) => {
      const { startMs, endMs, title } = brief(at);
      return { ref: refs[at]!, row: rows[at]!, startMs, lengthMs: endMs - startMs, words: title };
    });
    return { lines, cut: Math.max(0, count - MAX_LINES) };
  }

  sums(range: TimeRange, thread: number): WindowSums {
    const last = this.#sums;
    const isLast = last?.thread === thread && last.startMs === range.startMs && last.endMs === range.endMs;
    return isLast ? last : (this.#sums = windowSums(this.recording, range, thread));
  }

  interactionRows(): readonly InteractionRow[] {
    return interactionRowsOf(this.recording);
  }

  /** @param indexes in `interactionRows` */
  interactionSlices(indexes: readonly number[]): InteractionSlice[][] {
    const rows = interactionRowsOf(this.recording);
    return indexes.map((index) => interactionSlices(this.recording, rows[index]!));
  }

  #lane(laneId: string): Lane | undefined {
    return lanesOf(this.recording).find(({ id }) => id === laneId);
  }
}
