import { roundText } from '@nettle-patch/core';
import { BOLD_FONT, FIGURE_FONT, SMALL_FONT, TEXT_FONT } from '../../shared/canvas-fonts';
import { fillOf, type Texture } from '../../shared/patterns';
import { PHASE_COLOURS, type Palette } from '../../shared/palette';
import { axisTicks, type TimeScale } from '../../shared/time-scale';
import { LAYOUT, type AnatomyLayout, type Shape } from './anatomy-layout';

const THORN_STEP = 10;
/** Ticks closer than this would be a line. Pixels. */
const MIN_TICK = 3;
/** Room of the word at the beginning of the drawing. Pixels. */
const AFTER_BEGIN = 48;
/** Room of the word at its end, and between two words. Pixels. */
const BEFORE_END = 70;
const BETWEEN = 14;
/** Kinds whose texture would make words on it hard to read. */
const TEXTURED = new Set<Shape['kind']>(['style', 'layout', 'paint', 'collection', 'dialog']);
const PHASES = new Set<string>(Object.keys(PHASE_COLOURS));

export interface PaintOptions {
  readonly palette: Palette;
  /** Function to point out. */
  readonly selected: number | undefined;
  /** Whether the delay begins with an input and ends with a picture. */
  readonly answered: boolean;
  readonly budgetMs: number;
}

/** Draws the layout of a sting on a canvas whose unit is the CSS pixel. */
export class AnatomyPainter {
  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly options: PaintOptions,
  ) {}

  paint(layout: AnatomyLayout): void {
    this.#excess(layout);
    for (const shape of layout.shapes) this.#shape(shape);
    this.#frame(layout);
    this.#missedFrames(layout);
    this.#axis(layout);
  }

  /** A tick for each picture the display could have shown and did not get, and how many that were. */
  #missedFrames({ missedX, scale, budgetX }: AnatomyLayout): void {
    if (missedX.length === 0) return;
    const { palette } = this.options;
    this.context.strokeStyle = palette.sting;
    this.context.lineWidth = 1;
    let drawnX = -Infinity;
    for (const x of missedX) {
      if (x - drawnX < MIN_TICK) continue;
      this.#line(x, LAYOUT.inputY - 3, x, LAYOUT.inputY + 3);
      drawnX = x;
    }
    const words = missedX.length === 1 ? '1 frame missed' : `${missedX.length} frames missed`;
    const width = this.#width(words, SMALL_FONT);
    const budget = this.#budgetLabel(scale, budgetX);
    const first = scale.left + AFTER_BEGIN;
    const isFree = budget === undefined || first + width + BETWEEN < budget.x;
    const x = isFree ? first : budget.x + budget.width + BETWEEN;
    if (x + width < scale.right - BEFORE_END) this.#text(words, x, 12, palette.soft, SMALL_FONT);
  }

  /** What the budget's line says, and where; undefined where the budget was kept. */
  #budgetLabel(scale: TimeScale, budgetX: number): { text: string; x: number; width: number } | undefined {
    if (budgetX >= scale.right) return undefined;
    const text = `budget ${roundText(this.options.budgetMs)} ms`;
    const width = this.#width(text);
    const fits = budgetX + 6 + width < scale.right - BEFORE_END;
    const x = fits ? Math.max(budgetX + 6, scale.left + AFTER_BEGIN) : budgetX - 6 - width;
    return { text, x, width };
  }

  /** The time beyond the budget, shaded. */
  #excess({ budgetX, scale, axisY }: AnatomyLayout): void {
    if (budgetX >= scale.right) return;
    this.context.fillStyle = this.options.palette.stingSoft;
    this.context.fillRect(budgetX, 0, scale.right - budgetX, axisY);
  }

  #frame({ scale, budgetX, axisY }: AnatomyLayout): void {
    const { context } = this;
    const { palette, answered } = this.options;
    context.strokeStyle = palette.line;
    context.lineWidth = 1;
    this.#line(scale.left, LAYOUT.inputY, scale.right, LAYOUT.inputY);
    context.fillStyle = palette.sting;
    context.beginPath();
    context.arc(scale.left, LAYOUT.inputY, 4.5, 0, 2 * Math.PI);
    context.fill();
    context.fillStyle = palette.nettle;
    context.beginPath();
    context.moveTo(scale.right, LAYOUT.inputY - 5);
    context.lineTo(scale.right + 8, LAYOUT.inputY);
    context.lineTo(scale.right, LAYOUT.inputY + 5);
    context.fill();
    this.#text(answered ? 'input' : 'begins', scale.left, 12, palette.soft);
    const end = answered ? 'on screen' : 'ends';
    this.#text(end, scale.right - this.#width(end), 12, palette.soft);
    if (budgetX >= scale.right) return;
    context.strokeStyle = palette.ink;
    context.lineWidth = 1.5;
    context.setLineDash([4, 3]);
    this.#line(budgetX, 0, budgetX, axisY);
    context.setLineDash([]);
    const label = this.#budgetLabel(scale, budgetX);
    if (label !== undefined) this.#text(label.text, label.x, 12, palette.sting);
  }

  #axis({ scale, axisY }: AnatomyLayout): void {
    const { palette } = this.options;
    this.context.strokeStyle = palette.line;
    this.context.lineWidth = 1;
    this.#line(scale.left, axisY, scale.right, axisY);
    const ticks = axisTicks(scale, 70);
    for (const ms of ticks) {
      const x = scale.x(scale.startMs + ms);
      this.#line(x, axisY, x, axisY + 4);
      const text = ms === ticks.at(-1) ? `${ms} ms` : String(ms);
      const width = this.#width(text, FIGURE_FONT);
      this.#text(
        text,
        Math.max(scale.left, Math.min(scale.right - width, x - width / 2)),
        axisY + 17,
        palette.soft,
        FIGURE_FONT,
      );
    }
  }

  #shape(shape: Shape): void {
    const { context } = this;
    const { palette, selected } = this.options;
    if (shape.kind === 'thorn') return this.#thorns(shape);
    if (shape.kind === 'queued') return this.#capsule(shape);
    if (shape.kind === 'blocker') return this.#blocker(shape);
    if (shape.kind === 'unseen') return this.#unseen(shape);
    if (shape.kind === 'idle') {
      context.strokeStyle = palette.soft;
      this.#line(shape.x, shape.y + shape.height - 0.5, shape.x + shape.width, shape.y + shape.height - 0.5);
      return;
    }
    context.fillStyle = this.#fill(shape);
    context.fillRect(shape.x, shape.y, shape.width, shape.height);
    if (shape.width > 3 && !PHASES.has(shape.kind)) {
      context.strokeStyle = palette.paper;
      context.lineWidth = 1;
      context.strokeRect(shape.x + 0.5, shape.y + 0.5, shape.width - 1, shape.height - 1);
    }
    if (shape.functionId !== undefined && shape.functionId === selected) {
      context.strokeStyle = palette.ink;
      context.lineWidth = 2;
      context.strokeRect(shape.x + 1, shape.y + 1, Math.max(1, shape.width - 2), shape.height - 2);
    }
    this.#caption(shape);
  }

  /** What a shape says about itself: inside where there is room, under a narrow phase otherwise. */
  #caption(shape: Shape): void {
    const { palette } = this.options;
    const font = PHASES.has(shape.kind) ? BOLD_FONT : TEXT_FONT;
    const width = this.#width(shape.text, font);
    if (TEXTURED.has(shape.kind) && shape.width > width + 12) {
      this.context.fillStyle = palette.panel;
      this.context.fillRect(shape.x + 4, shape.y + 3, width + 5, shape.height - 6);
    }
    if (width + 10 <= shape.width) {
      const colour =
        shape.kind === 'own'
          ? palette.onScriptOwn
          : shape.kind === 'handling'
            ? palette.onHandling
            : palette.ink;
      this.#text(shape.text, shape.x + 6, shape.y + shape.height / 2 + 4, colour, font);
    } else if (PHASES.has(shape.kind)) {
      const x = shape.kind === 'drawing' ? shape.x + shape.width - width : shape.x;
      this.#text(
        shape.text,
        Math.max(LAYOUT.margin, x),
        shape.y + shape.height + 15,
        palette.soft,
        TEXT_FONT,
      );
    } else if (shape.width > 34) {
      this.#text(
        this.#shorten(shape.text, shape.width - 10),
        shape.x + 6,
        shape.y + 14,
        shape.kind === 'own' ? palette.onScriptOwn : palette.ink,
      );
    }
  }

  #fill({ kind }: Shape): string | CanvasPattern {
    const { palette } = this.options;
    const filled = (texture: Texture, colour: string, ground: string) =>
      fillOf(this.context, texture, colour, ground);
    switch (kind) {
      case 'waiting':
        return filled('hatch', palette.waiting, palette.waitingSoft);
      case 'handling':
        return palette.handling;
      case 'drawing':
        return palette.drawing;
      case 'request':
      case 'timer':
      case 'worker':
        return palette.waitingSoft;
      case 'loading':
        return filled('lines', palette.drawing, palette.panel);
      case 'style':
        return filled('dots', palette.style, palette.panel);
      case 'layout':
        return filled('hatch', palette.layout, palette.panel);
      case 'paint':
        return filled('lines', palette.paint, palette.panel);
      case 'collection':
        return filled('cross', palette.collection, palette.panel);
      case 'own':
        return palette.scriptOwn;
      case 'dialog':
        return filled('lines', palette.waiting, palette.panel);
      case 'library':
      case 'stem':
        return palette.scriptLibrary;
      default:
        return palette.other;
    }
  }

  /** A dotted line over the blocks that are inferred. */
  #unseen(shape: Shape): void {
    const { context } = this;
    const { palette } = this.options;
    const y = shape.y + shape.height - 2;
    context.strokeStyle = palette.soft;
    context.lineWidth = 1.5;
    context.setLineDash([2, 3]);
    this.#line(shape.x, y, shape.x + shape.width, y);
    context.setLineDash([]);
    if (this.#width(shape.text, SMALL_FONT) < shape.width)
      this.#text(shape.text, shape.x + 1, y - 4, palette.soft, SMALL_FONT);
  }

  #thorns(shape: Shape): void {
    const { context } = this;
    context.fillStyle = this.options.palette.layout;
    const count = Math.max(1, Math.floor(shape.width / THORN_STEP));
    for (let index = 0; index < count; index++) {
      const x = shape.x + (index + 0.5) * (shape.width / count);
      context.beginPath();
      context.moveTo(x - 4, shape.y);
      context.lineTo(x, shape.y + shape.height);
      context.lineTo(x + 4, shape.y);
      context.fill();
    }
    const textX = Math.min(shape.x, context.canvas.clientWidth - LAYOUT.margin - this.#width(shape.text));
    this.#text(shape.text, textX, shape.y + shape.height + 13, this.options.palette.ink);
  }

  /** What the input waited for: a sheet of paper on the band of its waiting. */
  #blocker({ x, y, width, height, text, functionId }: Shape): void {
    const { context } = this;
    const { palette, selected } = this.options;
    context.fillStyle = palette.panel;
    context.fillRect(x, y, width, height);
    const isSelected = functionId !== undefined && functionId === selected;
    context.strokeStyle = isSelected ? palette.ink : palette.waiting;
    context.lineWidth = isSelected ? 2 : 1;
    context.strokeRect(x + 0.5, y + 0.5, Math.max(0.5, width - 1), height - 1);
    if (width > 34) this.#text(this.#shorten(text, width - 10), x + 5, y + 12, palette.ink, SMALL_FONT);
  }

  /** Words that do not fit into it stand beside it. */
  #capsule(shape: Shape): void {
    const { context } = this;
    const length = Math.max(shape.height, shape.width);
    const words = this.#width(shape.text);
    const right = context.canvas.clientWidth - LAYOUT.margin;
    const beside = shape.x + length + 5;
    const x = words + 16 <= length ? shape.x + 8 : beside + words <= right ? beside : shape.x - 5 - words;
    context.strokeStyle = this.options.palette.soft;
    context.lineWidth = 1;
    context.beginPath();
    context.roundRect(shape.x + 0.5, shape.y + 0.5, length, shape.height - 1, shape.height / 2);
    context.stroke();
    this.#text(shape.text, x, shape.y + 11, this.options.palette.ink);
  }

  #line(x1: number, y1: number, x2: number, y2: number): void {
    this.context.beginPath();
    this.context.moveTo(x1, y1);
    this.context.lineTo(x2, y2);
    this.context.stroke();
  }

  #text(text: string, x: number, y: number, colour: string, font = TEXT_FONT): void {
    this.context.font = font;
    this.context.fillStyle = colour;
    this.context.fillText(text, x, y);
  }

  #width(text: string, font = TEXT_FONT): number {
    this.context.font = font;
    return this.context.measureText(text).width;
  }

  #shorten(text: string, width: number): string {
    if (this.#width(text) <= width) return text;
    let kept = text.length;
    while (kept > 0 && this.#width(`${text.slice(0, kept)}…`) > width) kept--;
    return kept === 0 ? '' : `${text.slice(0, kept)}…`;
  }
}
