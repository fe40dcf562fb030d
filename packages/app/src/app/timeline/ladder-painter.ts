import { countText } from '@nettle-patch/core';
import type { InteractionSlice } from '@nettle-patch/core';
import { FIGURE_FONT, HEAD_FONT, TEXT_FONT } from '../shared/canvas-fonts';
import type { Palette } from '../shared/palette';
import { axisTicks, type TimeScale } from '../shared/time-scale';
import type { LadderLine } from './ladder-layout';
import { lookFills, type Fill } from './style-fills';

export interface LadderPicture {
  readonly lines: readonly LadderLine[];
  readonly pieces: ReadonlyMap<number, readonly InteractionSlice[]>;
  readonly scale: TimeScale;
  readonly scrollTop: number;
  readonly height: number;
  readonly axisHeight: number;
  readonly budgetMs: number;
  readonly selected: number | undefined;
}

/** Draws the ladder on a canvas whose unit is the CSS pixel. */
export class LadderPainter {
  readonly #fills: readonly Fill[];

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly palette: Palette,
  ) {
    this.#fills = lookFills(context, palette);
  }

  paint(picture: LadderPicture): void {
    const { context, palette } = this;
    const { lines, scale, scrollTop, height, axisHeight, budgetMs } = picture;
    const budgetX = scale.x(budgetMs);
    context.save();
    context.beginPath();
    context.rect(0, axisHeight, scale.right + 200, height);
    context.clip();
    const topOf = (line: LadderLine) => axisHeight + line.top - scrollTop;
    const last = lines.at(-1);
    const foot = last === undefined ? axisHeight : Math.min(height, topOf(last) + last.height);
    if (budgetX < scale.right) {
      context.fillStyle = palette.stingSoft;
      context.fillRect(budgetX, axisHeight, scale.right - budgetX, foot - axisHeight);
    }
    for (const line of lines) if (line.type === 'row') this.#row(line, topOf(line), picture);
    if (budgetX < scale.right) this.#budget(budgetX, foot, picture);
    for (const line of lines) if (line.type === 'head') this.#head(line, topOf(line), scale);
    context.restore();
    this.#axis(picture);
  }

  #head(
    { label, about, height }: Extract<LadderLine, { type: 'head' }>,
    top: number,
    scale: TimeScale,
  ): void {
    const { context, palette } = this;
    context.fillStyle = palette.paper;
    context.fillRect(0, top, context.canvas.clientWidth, height);
    context.font = HEAD_FONT;
    context.fillStyle = palette.ink;
    context.fillText(label, scale.left, top + 20);
    const after = scale.left + context.measureText(label).width + 14;
    context.font = TEXT_FONT;
    context.fillStyle = palette.soft;
    context.fillText(about, after, top + 20);
  }

  #row({ row, height }: Extract<LadderLine, { type: 'row' }>, top: number, picture: LadderPicture): void {
    const { context, palette } = this;
    const { scale, pieces, selected, budgetMs } = picture;
    const { feltMs, measured, interaction } = row;
    const endX = scale.x(feltMs);
    const [y, tall] = [top + 3, height - 7];
    context.fillStyle = palette.line;
    context.fillRect(scale.left, y + tall - 1, endX - scale.left, 1);
    for (const { fromMs, toMs, style } of pieces.get(interaction) ?? []) {
      const x = scale.x(Math.max(0, fromMs));
      context.fillStyle = this.#fills[style]!;
      context.fillRect(x, y, Math.max(0.7, scale.x(toMs) - x), tall);
    }
    context.fillStyle = palette.ink;
    context.fillRect(scale.left - 1.5, y - 1, 3, tall + 2);
    context.fillStyle = palette.nettle;
    context.beginPath();
    context.moveTo(endX, y);
    context.lineTo(endX + 6, y + tall / 2);
    context.lineTo(endX, y + tall);
    context.fill();
    const { outcomeMs } = row;
    if (outcomeMs !== undefined) this.#outcome(endX + 6, scale.x(outcomeMs), y, tall);
    const textX = outcomeMs === undefined ? endX : scale.x(outcomeMs);
    const outcomeWords = outcomeMs === undefined ? '' : `, outcome ${countText(outcomeMs)} ms`;
    context.font = FIGURE_FONT;
    context.fillStyle = measured && feltMs > budgetMs ? palette.sting : palette.soft;
    context.fillText(
      `${measured ? '' : '< '}${countText(feltMs)} ms${outcomeWords}`,
      textX + 11,
      y + tall / 2 + 4.5,
    );
    if (interaction !== selected) return;
    context.strokeStyle = palette.nettle;
    context.lineWidth = 2;
    context.strokeRect(scale.left - 5, top + 0.5, endX - scale.left + 16, height - 2);
  }

  /** A dotted line behind the answer, to the last change on the screen that the input set going. */
  #outcome(fromX: number, toX: number, y: number, tall: number): void {
    const { context, palette } = this;
    const middle = y + tall / 2;
    context.strokeStyle = palette.nettle;
    context.lineWidth = 1.5;
    this.#dashed([1.5, 3], fromX, middle, toX, middle);
    context.beginPath();
    context.moveTo(toX, y + 1);
    context.lineTo(toX + 6, middle);
    context.lineTo(toX, y + tall - 1);
    context.closePath();
    context.stroke();
  }

  #dashed(dash: number[], fromX: number, fromY: number, toX: number, toY: number): void {
    const { context } = this;
    context.setLineDash(dash);
    context.beginPath();
    context.moveTo(fromX, fromY);
    context.lineTo(toX, toY);
    context.stroke();
    context.setLineDash([]);
  }

  /** @param foot where the last row ends */
  #budget(x: number, foot: number, { axisHeight, height, budgetMs }: LadderPicture): void {
    const { context, palette } = this;
    context.strokeStyle = palette.ink;
    context.lineWidth = 1.5;
    this.#dashed([4, 3], x, axisHeight, x, foot);
    context.font = TEXT_FONT;
    const words = `budget ${budgetMs} ms`;
    const width = context.measureText(words).width + 8;
    context.fillStyle = palette.paper;
    const top = Math.min(foot, height - 20);
    context.fillRect(x + 2, top, width, 18);
    context.fillStyle = palette.sting;
    context.fillText(words, x + 6, top + 13);
  }

  #axis({ scale, axisHeight }: LadderPicture): void {
    const { context, palette } = this;
    context.fillStyle = palette.paper;
    context.fillRect(0, 0, context.canvas.clientWidth, axisHeight);
    context.fillStyle = palette.line;
    context.fillRect(0, axisHeight - 1, context.canvas.clientWidth, 1);
    context.font = FIGURE_FONT;
    for (const ms of axisTicks(scale, 80)) {
      const x = scale.x(ms);
      context.fillStyle = palette.edge;
      context.fillRect(x, axisHeight - 6, 1, 6);
      context.fillStyle = palette.soft;
      context.fillText(ms === 0 ? 'input' : `${Number(ms.toPrecision(6))} ms`, x + 4, axisHeight - 9);
    }
  }
}
