import { FIGURE_FONT } from '../shared/canvas-fonts';
import type { Palette } from '../shared/palette';
import type { TimeScale } from '../shared/time-scale';
import { timeWords, unitOf } from './axis-times';
import { AXIS_HEIGHT } from './lane-layout';

/** Draws where the pointer is on a canvas of its own, so that the lanes below need not be drawn anew. */
export function paintPointer(
  context: CanvasRenderingContext2D,
  palette: Palette,
  scale: TimeScale,
  height: number,
  ms: number,
): void {
  context.fillStyle = palette.soft;
  context.fillRect(scale.x(ms), AXIS_HEIGHT, 1, height);
  const unit = unitOf(scale.endMs - scale.startMs);
  const words = timeWords(ms, { ...unit, digits: unit.digits + 1 });
  context.font = FIGURE_FONT;
  const width = context.measureText(words).width + 10;
  const x = Math.min(scale.right - width, Math.max(scale.left, scale.x(ms) - width / 2));
  context.fillStyle = palette.ink;
  context.fillRect(x, 1, width, 16);
  context.fillStyle = palette.paper;
  context.fillText(words, x + 5, 13);
}
