import type { TimeRange } from '@nettle-patch/core';
import type { ListedSting, OpenedRecording } from '../../workers/opened';
import type { ColourName, Palette } from '../shared/palette';
import type { TimeScale } from '../shared/time-scale';

const TOP = 16;
const FOOT = 12;
const HIT_PIXELS = 7;

const COLOURS: readonly (readonly [keyof OpenedRecording['skyline']['parts'], ColourName])[] = [
  ['scriptOwnMs', 'scriptOwn'],
  ['scriptLibraryMs', 'scriptLibrary'],
  ['styleMs', 'style'],
  ['layoutMs', 'layout'],
  ['paintMs', 'paint'],
  ['drawingMs', 'paint'],
  ['collectionMs', 'collection'],
  ['otherMs', 'other'],
  ['unexplainedMs', 'other'],
];

export interface GroundStripContent {
  readonly opened: OpenedRecording;
  readonly range: TimeRange | undefined;
  readonly selected: ListedSting | undefined;
}

/** Draws the skyline by kind of work, stings as marks above it, inputs as dots under it. */
export function paintGroundStrip(
  context: CanvasRenderingContext2D,
  scale: TimeScale,
  height: number,
  { opened, range, selected }: GroundStripContent,
  palette: Palette,
): void {
  const ground = height - FOOT;
  const { skyline } = opened;
  const width = Math.ceil(scale.pixelsPerMs * skyline.stepMs) + 0.5;
  for (let step = 0; step < skyline.steps; step++) {
    let y = ground;
    for (const [part, colour] of COLOURS) {
      const tall = ((skyline.parts[part][step] ?? 0) / skyline.stepMs) * (ground - TOP);
      if (tall <= 0) continue;
      context.fillStyle = palette[colour];
      context.fillRect(scale.x(step * skyline.stepMs), y - tall, width, tall);
      y -= tall;
    }
  }
  context.fillStyle = palette.soft;
  context.fillRect(scale.left, ground, scale.right - scale.left, 1);
  context.fillStyle = palette.ink;
  for (const ms of opened.inputs) {
    context.beginPath();
    context.arc(scale.x(ms), ground + 6, 1.8, 0, 2 * Math.PI);
    context.fill();
  }
  for (const sting of opened.stings)
    paintMark(context, scale.x(sting.startMs), sting === selected ? 9 : 6, palette.sting);
  if (selected !== undefined) paintRange(context, scale, height, selected, palette.sting);
  if (range !== undefined) paintRange(context, scale, height, range, palette.nettle);
}

function paintMark(context: CanvasRenderingContext2D, x: number, size: number, colour: string): void {
  context.fillStyle = colour;
  context.beginPath();
  context.moveTo(x, 3);
  context.lineTo(x + size / 1.6, 3 + size);
  context.lineTo(x - size / 1.6, 3 + size);
  context.fill();
}

function paintRange(
  context: CanvasRenderingContext2D,
  scale: TimeScale,
  height: number,
  range: TimeRange,
  colour: string,
): void {
  const [left, right] = [scale.x(range.startMs), Math.max(scale.x(range.endMs), scale.x(range.startMs) + 2)];
  context.globalAlpha = 0.13;
  context.fillStyle = colour;
  context.fillRect(left, 0, right - left, height);
  context.globalAlpha = 1;
  context.fillRect(left - 1, 0, 2, height);
  context.fillRect(right - 1, 0, 2, height);
}

/** Index of the sting whose mark is at a place, the nearest if there are several. */
export function stingAt(scale: TimeScale, stings: readonly ListedSting[], x: number): number | undefined {
  let best: number | undefined;
  let bestDistance = HIT_PIXELS;
  stings.forEach((sting, index) => {
    const distance = Math.abs(scale.x(sting.startMs) - x);
    if (distance <= bestDistance) {
      best = index;
      bestDistance = distance;
    }
  });
  return best;
}
