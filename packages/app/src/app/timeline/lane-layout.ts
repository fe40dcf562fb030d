import type { LaneKind } from '@nettle-patch/core';
import type { LaneInfo } from '../../workers/analysis/queries/timeline-queries';

/** Height of the time axis above the lanes. Pixels. */
export const AXIS_HEIGHT = 24;
const GAP = 8;
const FOLDED_HEIGHT = 20;
/** Least height of a lane: its title stands beside it. */
const MIN_HEIGHT = 26;

const ROW_HEIGHTS: Readonly<Record<LaneKind, number>> = {
  inputs: 18,
  frames: 34,
  sync: 18,
  activity: 17,
  thread: 18,
  requests: 17,
  spans: 17,
  memory: 26,
  redraws: 14,
  states: 16,
};

/** A lane with its place in the drawing, in pixels from the top of the first lane. */
export interface PlacedLane {
  readonly lane: LaneInfo;
  readonly top: number;
  readonly height: number;
  readonly rowHeight: number;
  readonly folded: boolean;
}

/** Rows grow to so many times their height where there is room, and no further. */
const MOST_GROWTH = 2.4;

/**
 * Stacks lanes above each other; a folded one shows all its rows in one.
 * @param room height there is for them, which their rows fill as far as they may grow. Pixels
 */
export function placeLanes(lanes: readonly LaneInfo[], folded: readonly string[], room = 0): PlacedLane[] {
  const least = stack(lanes, folded, 1);
  const growing = least.reduce((sum, placed) => sum + (placed.folded ? 0 : placed.height), 0);
  const growth = growing === 0 ? 1 : 1 + (room - heightOf(least)) / growing;
  return growth <= 1 ? least : stack(lanes, folded, Math.min(MOST_GROWTH, growth));
}

function stack(lanes: readonly LaneInfo[], folded: readonly string[], growth: number): PlacedLane[] {
  let top = GAP / 2;
  return lanes.map((lane) => {
    const isFolded = folded.includes(lane.id);
    const rowHeight = Math.floor(ROW_HEIGHTS[lane.kind] * growth);
    const height = isFolded ? FOLDED_HEIGHT : Math.max(MIN_HEIGHT, rowHeight * lane.rows);
    const placed = { lane, top, height, rowHeight, folded: isFolded };
    top += height + GAP;
    return placed;
  });
}

/** Height of all lanes together. */
export function heightOf(lanes: readonly PlacedLane[]): number {
  const last = lanes.at(-1);
  return last === undefined ? 0 : last.top + last.height + GAP;
}

/** The lane and the row at a place; undefined between lanes. */
export function rowAt(
  lanes: readonly PlacedLane[],
  y: number,
): { readonly placed: PlacedLane; readonly row: number } | undefined {
  const placed = lanes.find(({ top, height }) => y >= top && y < top + height);
  if (placed === undefined) return undefined;
  const row = placed.folded
    ? 0
    : Math.min(placed.lane.rows - 1, Math.floor((y - placed.top) / placed.rowHeight));
  return { placed, row };
}
