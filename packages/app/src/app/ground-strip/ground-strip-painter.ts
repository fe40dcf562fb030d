import type { TimeRange } from '@nettle-patch/core';
import type { ListedSting, OpenedRecording } from '../../workers/analysis/analysis-results';
import type { ColourName, Palette } from '../shared/palette';
import type { TimeScale } from '../shared/time-scale';

const TOP = 16;
const FOOT = 12;
/** Height of the band along the foot in which the window is held. CSS pixels. */
export const WINDOW_BAND = 18;
const GRIP_WIDTH = 7;
const GRIP_HEIGHT = 20;
/** How much of what lies outside the range is left of it. */
const OUTSIDE = 0.3;
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

/** Where to draw, and how. */
export interface Ground {
  readonly context: CanvasRenderingContext2D;
  readonly scale: TimeScale;
  /** CSS pixels. */
  readonly height: number;
  readonly palette: Palette;
}

export interface GroundStripContent {
  readonly opened: OpenedRecording;
  /** Range of the lens. */
  readonly range: TimeRange | undefined;
  /** What the Timeline shows, where it shows less than all. */
  readonly window: TimeRange | undefined;
  /** When the chosen function ran: its share of each of so many equal steps of the recording. */
  readonly lit: Float32Array | undefined;
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

  paint(ground: Ground, content: GroundStripContent): void {
    const { context, scale, palette } = ground;
    const { opened, range, window, selected, lit } = content;
    const { canvas } = context;
    const key = [opened, scale.right, canvas.width, canvas.height, palette];
    if (this.#layer === undefined || key.some((part, at) => part !== this.#layer!.key[at])) {
      this.#layer = { canvas: document.createElement('canvas'), key };
      this.#layer.canvas.width = canvas.width;
      this.#layer.canvas.height = canvas.height;
      const inner = this.#layer.canvas.getContext('2d')!;
      inner.setTransform(context.getTransform());
      paintSkyline({ ...ground, context: inner }, opened);
    }
    context.drawImage(this.#layer.canvas, 0, 0, canvas.clientWidth, canvas.clientHeight);
    if (range !== undefined) paintOutside(ground, range);
    if (lit !== undefined) paintLit(ground, lit);
    if (selected !== undefined) paintSting(ground, selected);
    if (window !== undefined) paintWindow(ground, window);
    if (range !== undefined) paintGrips(ground, range);
  }
}

function paintSkyline({ context, scale, height, palette }: Ground, opened: OpenedRecording): void {
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

/** Dims what lies outside the range of the lens. */
function paintOutside({ context, scale, height, palette }: Ground, range: TimeRange): void {
  context.globalAlpha = 1 - OUTSIDE;
  context.fillStyle = palette.shade;
  context.fillRect(0, 0, scale.x(range.startMs), height);
  context.fillRect(scale.x(range.endMs), 0, context.canvas.clientWidth, height);
  context.globalAlpha = 1;
}

/** The two ends of the range, each with a handle. */
function paintGrips({ context, scale, height, palette }: Ground, range: TimeRange): void {
  const top = TOP + (height - TOP - FOOT - GRIP_HEIGHT) / 2;
  for (const ms of [range.startMs, range.endMs]) {
    const x = Math.round(scale.x(ms));
    context.fillStyle = palette.nettle;
    context.fillRect(x - 1, 0, 2, height);
    context.beginPath();
    context.roundRect(x - GRIP_WIDTH / 2, top, GRIP_WIDTH, GRIP_HEIGHT, 2);
    context.fill();
    context.fillStyle = palette.paper;
    context.fillRect(x - 1.5, top + 6, 1, GRIP_HEIGHT - 12);
    context.fillRect(x + 0.5, top + 6, 1, GRIP_HEIGHT - 12);
  }
}

/** An outline around what the Timeline shows, with a bar along its foot to hold it by. */
function paintWindow({ context, scale, height, palette }: Ground, window: TimeRange): void {
  const left = Math.round(scale.x(window.startMs)) + 0.5;
  const width = Math.max(3, Math.round(scale.x(window.endMs)) - left);
  context.strokeStyle = palette.ink;
  context.lineWidth = 1;
  context.strokeRect(left, TOP - 3.5, width, height - TOP + 2);
  context.fillStyle = palette.ink;
  context.fillRect(left - 0.5, height - 4, width + 1, 3);
}

/** The chosen sting: a larger mark, and how far it reaches as a bar along the top. */
function paintSting({ context, scale, palette }: Ground, sting: ListedSting): void {
  const left = scale.x(sting.startMs);
  paintMark(context, left, 9, palette.sting);
  context.fillRect(left, 0, Math.max(3, scale.x(sting.endMs) - left), 3);
}

/** When the chosen function ran: a line along the ground, the darker the more of the time. */
function paintLit({ context, scale, height, palette }: Ground, lit: Float32Array): void {
  const width = (scale.right - scale.left) / lit.length;
  context.fillStyle = palette.ink;
  lit.forEach((share, step) => {
    if (share <= 0) return;
    context.globalAlpha = 0.45 + 0.55 * share;
    context.fillRect(scale.left + step * width, height - FOOT + 1, Math.max(1.5, width), 3);
  });
  context.globalAlpha = 1;
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
