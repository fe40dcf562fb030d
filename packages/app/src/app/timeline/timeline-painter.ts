import {
  ITEM_STYLES,
  itemStyleCode,
  type DrawnItems,
  type ItemStyle,
  type TimeRange,
} from '@nettle-patch/core';
import type { DrawnLane } from '../../workers/analysis/queries/timeline-queries';
import type { ListedSting } from '../../workers/analysis/analysis-results';
import { FIGURE_FONT, TEXT_FONT } from '../shared/canvas-fonts';
import type { Palette } from '../shared/palette';
import { fillOf } from '../shared/patterns';
import type { TimeScale } from '../shared/time-scale';
import { roundTimes, timeWords, unitOf } from './axis-times';
import { AXIS_HEIGHT, type PlacedLane } from './lane-layout';
import { lookFills, type Fill } from './style-fills';
import { paintLit } from './lit-painter';
import { RunFiller } from './run-filler';

/** Mean width of a letter: words are cut by it, as measuring each would take longer than drawing it. */
const LETTER = 6.1;
const MIN_MARK = 1.5;
const FULL = 255;
const DIM = 0.22;
/** Frames of this many budgets fill their lane. */
const FRAME_BUDGETS = 4;
/** The sign for what is over its budget: how wide its tick is, and how far its wash stands out behind a bar. */
const TICK = 2;
const WASH = 2;
/** Where words begin in what has a round end or a flag. Pixels from its left. */
const INDENTS: Partial<Record<ItemStyle, number>> = { request: 8, failed: 8, mark: 10, note: 10 };
/** Looks that are no plain rectangle. */
const OUTLINED: ReadonlySet<ItemStyle> = new Set([
  'request',
  'failed',
  'unchanged',
  'out-of-view',
  'mark',
  'note',
  'state',
]);

/** Where something is drawn. CSS pixels. */
interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly tall: number;
}

export interface TimelinePicture {
  readonly lanes: readonly PlacedLane[];
  readonly drawn: readonly DrawnLane[];
  readonly scale: TimeScale;
  readonly height: number;
  readonly scrollTop: number;
  readonly range: TimeRange | undefined;
  readonly pauses: readonly TimeRange[];
  readonly stings: readonly ListedSting[];
  readonly selectedSting: ListedSting | undefined;
  readonly selected: { readonly lane: string; readonly ref: number } | undefined;
  readonly refreshMs: number;
  /** Longest good task. Milliseconds. */
  readonly longTaskMs: number;
  /** Things shorter than this are left out. Milliseconds. */
  readonly minMs: number;
  /** Things whose words do not hold this are dimmed. */
  readonly texts: readonly string[];
  /** Whether libraries are drawn as thin stems. */
  readonly foldLibraries: boolean;
}

/** Draws the lanes over their time axis on a canvas whose unit is the CSS pixel. */
export class TimelinePainter {
  readonly #fills: readonly Fill[];

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly palette: Palette,
  ) {
    this.#fills = lookFills(context, palette);
  }

  paint(picture: TimelinePicture): void {
    const { context, palette } = this;
    const { lanes, drawn, scale, height, scrollTop } = picture;
    const byId = new Map(drawn.map((lane) => [lane.id, lane]));
    context.save();
    context.beginPath();
    context.rect(0, AXIS_HEIGHT, scale.right, height - AXIS_HEIGHT);
    context.clip();
    context.translate(0, AXIS_HEIGHT - scrollTop);
    for (const placed of lanes) {
      const isSeen = placed.top + placed.height > scrollTop && placed.top < scrollTop + height;
      if (!isSeen) continue;
      context.fillStyle = palette.line;
      context.fillRect(scale.left, placed.top + placed.height + 3.5, scale.right - scale.left, 1);
      const lane = byId.get(placed.lane.id);
      if (lane === undefined) continue;
      this.#lane(placed, lane.items, picture);
      paintLit(context, palette, scale, placed, lane);
    }
    context.restore();
    this.#overlays(picture);
    this.#axis(picture);
  }

  #lane(placed: PlacedLane, items: DrawnItems, picture: TimelinePicture): void {
    const { context, palette } = this;
    const { scale, minMs, selected } = picture;
    const wanted = picture.texts.map((text) => text.toLowerCase());
    const pixelMs = 1 / scale.pixelsPerMs;
    const isFrames = placed.lane.kind === 'frames';
    const rowHeight = placed.folded ? placed.height : placed.rowHeight;
    if (isFrames && !placed.folded) this.#budget(placed, scale);
    const runs = new RunFiller(context);
    context.font = TEXT_FONT;
    for (let at = 0; at < items.count; at++) {
      const startMs = items.startsMs[at]!;
      const endMs = items.endsMs[at]!;
      if (endMs < scale.startMs || startMs > scale.endMs) continue;
      const lengthMs = endMs - startMs;
      if (minMs > 0 && lengthMs < minMs && (pixelMs <= minMs || lengthMs > pixelMs * 1.01)) continue;
      const style = ITEM_STYLES[items.styles[at]!]!;
      const left = Math.max(scale.left, scale.x(startMs));
      const width = Math.max(
        MIN_MARK,
        Math.min(scale.right, scale.x(endMs)) - left - (lengthMs > pixelMs * 3 ? 0.5 : 0),
      );
      let top = placed.top + (placed.folded ? 0 : items.rows[at]! * placed.rowHeight);
      let tall = rowHeight - 2;
      if (isFrames) {
        tall = Math.max(3, Math.min(1, lengthMs / (FRAME_BUDGETS * picture.refreshMs)) * (rowHeight - 2));
        top += rowHeight - 1 - tall;
      } else if (style === 'memory') {
        tall = Math.max(1, (items.filled[at]! / FULL) * (rowHeight - 2));
        top += rowHeight - 1 - tall;
      } else if (style === 'library' && picture.foldLibraries && !placed.folded) {
        top += tall * 0.3;
        tall *= 0.45;
      }
      const word = items.words[at]! < 0 ? '' : items.texts[items.words[at]!]!;
      const dim = wanted.length > 0 && !wanted.some((one) => word.toLowerCase().includes(one));
      const alpha = dim ? DIM : style === 'memory' ? 0.8 : 0.35 + 0.65 * (items.filled[at]! / FULL);
      const fill = this.#fills[items.styles[at]!]!;
      if (OUTLINED.has(style)) {
        runs.flush();
        this.#outlined(style, left, top, width, tall);
      } else if (style === 'long-task') {
        runs.flush();
        this.#longTask({ left, top, width, tall }, startMs + picture.longTaskMs, scale, fill, alpha);
      } else if (style === 'late-frame') {
        runs.flush();
        const full = placed.top + rowHeight - 1;
        this.#lateFrame(
          { left, top, width, tall },
          placed.top,
          full - this.#budgetTall(rowHeight),
          fill,
          alpha,
        );
      } else runs.rect(left, top + 1, width, tall - 1, fill, alpha);
      if (word !== '' && !placed.folded && !isFrames) {
        runs.flush();
        const budgetX = style === 'long-task' ? scale.x(startMs + picture.longTaskMs) - left : undefined;
        this.#word(word, style, { left, top, width, tall }, budgetX);
      }
      if (selected?.lane === placed.lane.id && selected.ref === items.refs[at]) {
        runs.flush();
        context.strokeStyle = palette.ink;
        context.lineWidth = 2;
        context.strokeRect(left - 1, top - 0.5, width + 2, tall + 1);
      }
    }
    runs.flush();
  }

  #outlined(style: ItemStyle, left: number, top: number, width: number, tall: number): void {
    const { context, palette } = this;
    context.fillStyle = this.#fills[itemStyleCode(style)]!;
    if (style === 'request' || style === 'failed') {
      context.lineWidth = 1.2;
      context.strokeStyle = style === 'failed' ? palette.sting : palette.soft;
      context.fillStyle = palette.panel;
      context.beginPath();
      context.roundRect(left + 0.5, top + 1.5, Math.max(3, width - 1), tall - 3, (tall - 3) / 2);
      context.fill();
      context.stroke();
    } else if (style === 'unchanged' || style === 'out-of-view') {
      context.lineWidth = 1.5;
      context.strokeStyle = style === 'unchanged' ? palette.sting : palette.soft;
      context.strokeRect(left + 0.5, top + 3, Math.max(3, width - 1), tall - 6);
    } else if (style === 'mark' || style === 'note' || style === 'state') {
      context.fillRect(left, top, MIN_MARK, tall);
      context.beginPath();
      context.moveTo(left, top);
      context.lineTo(left + 7, top + 3.5);
      context.lineTo(left, top + 7);
      context.fill();
    }
  }

  /** A task over its budget: a tick at the budget, and a wash behind what lies beyond. */
  #longTask(
    { left, top, width, tall }: Box,
    budgetEndMs: number,
    scale: TimeScale,
    fill: Fill,
    alpha: number,
  ): void {
    const { context, palette } = this;
    const right = left + width;
    const budgetX = Math.min(Math.max(left, scale.x(budgetEndMs)), right);
    context.fillStyle = palette.stingSoft;
    context.fillRect(budgetX, top - 1, right - budgetX, tall + 2);
    context.globalAlpha = alpha;
    context.fillStyle = fill;
    context.fillRect(left, top + WASH, width, tall - 2 * WASH);
    context.globalAlpha = 1;
    if (scale.x(budgetEndMs) < scale.left) return;
    context.fillStyle = palette.sting;
    context.fillRect(Math.min(budgetX, right - TICK), top - 1, TICK, tall + 2);
  }

  /** The same of a frame, which stands upright. @param budgetY where the budget is */
  #lateFrame(
    { left, top, width, tall }: Box,
    laneTop: number,
    budgetY: number,
    fill: Fill,
    alpha: number,
  ): void {
    const { context, palette } = this;
    context.fillStyle = palette.stingSoft;
    context.fillRect(left, laneTop, width, budgetY - laneTop);
    context.globalAlpha = alpha;
    context.fillStyle = fill;
    context.fillRect(left, top + 1, width, tall - 1);
    context.globalAlpha = 1;
    context.fillStyle = palette.sting;
    context.fillRect(left, budgetY - TICK / 2, width, TICK);
  }

  #budgetTall(rowHeight: number): number {
    return (rowHeight - 2) / FRAME_BUDGETS;
  }

  /** @param budgetX where its budget ends, from its left; words do not stand across the tick there */
  #word(
    word: string,
    style: ItemStyle,
    { left, top, width, tall }: Box,
    budgetX: number = Number.POSITIVE_INFINITY,
  ): void {
    const isAcross = budgetX < word.length * LETTER + 8;
    const before = isAcross ? Math.max(0, budgetX) + 6 : (INDENTS[style] ?? 4);
    const letters = Math.floor((width - before - 3) / LETTER);
    if (letters < 2) return;
    const { context, palette } = this;
    const inverse: Partial<Record<ItemStyle, string>> = {
      own: palette.onScriptOwn,
      library: palette.onScriptLibrary,
      handling: palette.onHandling,
    };
    const text = word.length > letters ? `${word.slice(0, letters - 1)}…` : word;
    if (style === 'style' || style === 'layout' || style === 'paint' || style === 'collection') {
      context.fillStyle = palette.panel;
      context.fillRect(left + 3, top + 2, Math.min(width - 6, text.length * LETTER + 4), tall - 4);
    }
    context.fillStyle = inverse[style] ?? palette.ink;
    context.fillText(text, left + before, top + tall / 2 + 4.5);
  }

  #budget(placed: PlacedLane, scale: TimeScale): void {
    const { context, palette } = this;
    const y = placed.top + placed.rowHeight - 1 - this.#budgetTall(placed.rowHeight);
    context.strokeStyle = palette.soft;
    context.lineWidth = 1;
    context.setLineDash([3, 3]);
    context.beginPath();
    context.moveTo(scale.left, y);
    context.lineTo(scale.right, y);
    context.stroke();
    context.setLineDash([]);
  }

  #overlays({ scale, height, range, pauses, selectedSting }: TimelinePicture): void {
    const { context, palette } = this;
    const band = ({ startMs, endMs }: TimeRange, fill: Fill, alpha: number) => {
      const left = Math.max(scale.left, scale.x(startMs));
      const right = Math.min(scale.right, scale.x(endMs));
      if (right <= left) return;
      context.globalAlpha = alpha;
      context.fillStyle = fill;
      context.fillRect(left, AXIS_HEIGHT, right - left, height - AXIS_HEIGHT);
      context.globalAlpha = 1;
    };
    for (const pause of pauses) band(pause, fillOf(context, 'hatch', palette.line, palette.paper), 0.8);
    if (selectedSting !== undefined) band(selectedSting, palette.sting, 0.08);
    if (range !== undefined) {
      band({ startMs: scale.startMs, endMs: range.startMs }, palette.paper, 0.62);
      band({ startMs: range.endMs, endMs: scale.endMs }, palette.paper, 0.62);
      context.fillStyle = palette.nettle;
      for (const ms of [range.startMs, range.endMs]) {
        if (ms >= scale.startMs && ms <= scale.endMs)
          context.fillRect(scale.x(ms) - 1, AXIS_HEIGHT, 2, height);
      }
    }
  }

  #axis({ scale, stings, selectedSting }: TimelinePicture): void {
    const { context, palette } = this;
    context.fillStyle = palette.paper;
    context.fillRect(0, 0, scale.right, AXIS_HEIGHT);
    context.fillStyle = palette.line;
    context.fillRect(scale.left, AXIS_HEIGHT - 1, scale.right - scale.left, 1);
    context.font = FIGURE_FONT;
    const unit = unitOf(scale.endMs - scale.startMs);
    for (const startMs of roundTimes(scale)) {
      const x = scale.x(startMs);
      context.fillStyle = palette.edge;
      context.fillRect(x, AXIS_HEIGHT - 6, 1, 6);
      context.fillStyle = palette.soft;
      context.fillText(timeWords(startMs, unit), x + 4, AXIS_HEIGHT - 9);
    }
    context.fillStyle = palette.sting;
    for (const sting of stings) {
      const x = scale.x(sting.startMs);
      if (x < scale.left - 4 || x > scale.right + 4) continue;
      const size = sting === selectedSting ? 8 : 5;
      context.beginPath();
      context.moveTo(x, AXIS_HEIGHT - 1 - size);
      context.lineTo(x + size / 1.6, AXIS_HEIGHT - 1);
      context.lineTo(x - size / 1.6, AXIS_HEIGHT - 1);
      context.fill();
    }
  }
}
