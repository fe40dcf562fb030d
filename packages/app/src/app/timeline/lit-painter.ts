import type { DrawnLane } from '../../workers/analysis/queries/timeline-queries';
import type { Palette } from '../shared/palette';
import type { TimeScale } from '../shared/time-scale';
import type { PlacedLane } from './lane-layout';

/** Thickness of the line, the same as on the ground strip. CSS pixels. */
const THICK = 2.5;
const LEAST_WIDTH = 2;

/** Underlines the calls of the chosen function: one path for all of them, however many there are. */
export function paintLit(
  context: CanvasRenderingContext2D,
  palette: Palette,
  scale: TimeScale,
  placed: PlacedLane,
  { items, lit }: DrawnLane,
): void {
  if (lit === undefined) return;
  context.beginPath();
  for (let at = 0; at < items.count; at++) {
    const [startMs, endMs] = [items.startsMs[at]!, items.endsMs[at]!];
    if (lit[at] === 0 || endMs < scale.startMs || startMs > scale.endMs) continue;
    const left = Math.max(scale.left, scale.x(startMs));
    const width = Math.max(LEAST_WIDTH, Math.min(scale.right, scale.x(endMs)) - left);
    const foot = placed.folded
      ? placed.top + placed.height
      : placed.top + (items.rows[at]! + 1) * placed.rowHeight;
    context.rect(left, foot - THICK - 1, width, THICK);
  }
  context.fillStyle = palette.ink;
  context.fill();
}
