import type { TimeRange } from '@nettle-patch/core';
import type { ListedSting, OpenedRecording } from '../../workers/analysis/analysis-results';
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
  ['dialogMs', 'waiting'],
  ['unexplainedMs', 'other'],
];

export interface GroundStripContent {
  readonly opened: OpenedRecording;
  readonly range: TimeRange | undefined;
  readonly selected: ListedSting | undefined;
}

/** What of the drawing does not change while the range is moved, drawn once. */
interface Layer {
  readonly canvas: HTMLCanvasElement;
  readonly key: readonly unknown[];
}

/** Draws the skyline by kind of work, stings as marks above it, inputs as dots under it. */
export class GroundStripPainter {
  #layer: Layer | undefined;

  paint(
    context: CanvasRenderingContext2D,
    scale: TimeScale,
    height: number,
    content: GroundStripContent,
    palette: Palette,
  ): void {
    const { opened, range, selected } = content;
    const { canvas } = context;
    const key = [opened, scale.right, canvas.width, canvas.height, palette];
    if (this.#layer === undefined || key.some((part, at) => part !== this.#layer!.key[at])) {
      this.#layer = { canvas: document.createElement('canvas'), key };
      this.#layer.canvas.width = canvas.width;
      this.#layer.canvas.height = canvas.height;
      const inner = this.#layer.canvas.getContext('2d')!;
      inner.setTransform(context.getTransform());
      paintSkyline(inner, scale, height, opened, palette);
    }
    context.drawImage(this.#layer.canvas, 0, 0, canvas.clientWidth, canvas.clientHeight);
    if (selected !== undefined) {
      paintMark(context, scale.x(selected.startMs), 9, palette.sting);
      paintRange(context, scale, height, selected, palette.sting);
    }
    if (range !== undefined) paintRange(context, scale, height, range, palette.nettle);
  }
}

function paintSkyline(
  context: CanvasRenderingContext2D,
  scale: TimeScale,
  height: number,
  opened: OpenedRecording,
  palette: Palette,
): void {
  const ground = height - FOOT;
  const { skyline } = opened;
  const width = Math.ceil(scale.pixelsPerMs * skyline.stepMs) + 0.5;
  const tops = new Float64Array(skyline.steps).fill(ground);
  for (const [part, colour] of COLOURS) {
    context.fillStyle = palette[colour];
    for (let step = 0; step < skyline.steps; step++) {
      const tall = ((skyline.parts[part][step] ?? 0) / skyline.stepMs) * (ground - TOP);
      if (tall <= 0) continue;
      tops[step]! -= tall;
      context.fillRect(scale.x(step * skyline.stepMs), tops[step]!, width, tall);
    }
  }
  context.fillStyle = palette.soft;
  context.fillRect(scale.left, ground, scale.right - scale.left, 1);
  context.fillStyle = palette.ink;
  for (const x of new Set(opened.inputs.map((ms) => Math.round(scale.x(ms))))) {
    context.beginPath();
    context.arc(x, ground + 6, 1.8, 0, 2 * Math.PI);
    context.fill();
  }
  for (const x of new Set(opened.stings.map(({ startMs }) => Math.round(scale.x(startMs)))))
    paintMark(context, x, 6, palette.sting);
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
