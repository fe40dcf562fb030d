import type { TimeRange } from '../recording/recording';
import type { DrawnItems } from './drawn-items';

export const LANE_KINDS = [
  'inputs',
  'frames',
  'sync',
  'thread',
  'activity',
  'requests',
  'spans',
  'memory',
  'redraws',
  'states',
] as const;
export type LaneKind = (typeof LANE_KINDS)[number];

/** One lane of the time view: items of one kind, in rows over the time axis. */
export interface Lane {
  /** The kind; of a thread, with its id: "thread 0". */
  readonly id: string;
  readonly kind: LaneKind;
  readonly title: string;
  /** Thread it belongs to. */
  readonly thread: number;
  readonly rows: number;
  /** How many items there are in it. */
  readonly count: number;
  /** What to draw of a range in so many pixels, in time that depends on the pixels. */
  draw(range: TimeRange, pixels: number): DrawnItems;
  /** What stands at a time in a row, or within a distance of it: its number in this lane. */
  at(ms: number, row: number, withinMs: number): number | undefined;
  /** Function of an item, as the tables of calls name it, where it is a call; absent in lanes that hold none. */
  functionOf?(ref: number): number | undefined;
}
