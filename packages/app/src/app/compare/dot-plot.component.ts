import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, viewChild } from '@angular/core';
import { boundWords, type ComparedSeries, type SeriesSide, durationText } from '@nettle-patch/core';
import { FIGURE_FONT } from '../shared/canvas-fonts';
import { keepDrawn, prepareCanvas } from '../shared/canvas';
import type { Palette } from '../shared/palette';
import { TimeScale } from '../shared/time-scale';

const BEFORE_Y = 13;
const AFTER_Y = 35;
const DOT = 4;
const MARGIN = 8;
/** Room for the median in figures. */
const FIGURES = 66;

/** All attempts of one series as points, those before over those after, on one axis that begins at their input. */
@Component({
  selector: 'np-dot-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas role="img" [attr.aria-label]="words()"></canvas>`,
  styles: `
    canvas {
      display: block;
      width: 100%;
      height: 48px;
    }
  `,
})
export class DotPlotComponent {
  readonly series = input.required<ComparedSeries>();
  readonly budgetMs = input.required<number>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly words = computed(() => {
    const { before, after } = this.series();
    const delaysOf = ({ delays }: SeriesSide) =>
      delays.length === 0 ? 'none' : delays.map(({ ms, isBound }) => boundWords(ms, isBound)).join(', ');
    return `Attempts: before ${delaysOf(before)}; after ${delaysOf(after)}`;
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.series(), this.budgetMs()],
      (palette) => this.#draw(palette),
    );
  }

  #draw(palette: Palette): void {
    const { context, width, height } = prepareCanvas(this.canvas().nativeElement);
    const { before, after, isInteraction } = this.series();
    const mostMs = Math.max(before.worstMs ?? 0, after.worstMs ?? 0, 1);
    const scale = new TimeScale(0, mostMs, MARGIN, width - FIGURES);
    const budgetMs = this.budgetMs();
    if (isInteraction && budgetMs < mostMs) {
      const x = scale.x(budgetMs);
      context.fillStyle = palette.stingSoft;
      context.fillRect(x, 0, scale.right + MARGIN - x, height);
      context.strokeStyle = palette.sting;
      context.setLineDash([4, 3]);
      context.beginPath();
      context.moveTo(x, 0);
      context.lineTo(x, height);
      context.stroke();
      context.setLineDash([]);
    }
    this.#side(context, palette, scale, before, BEFORE_Y, false);
    this.#side(context, palette, scale, after, AFTER_Y, true);
  }

  #side(
    context: CanvasRenderingContext2D,
    palette: Palette,
    scale: TimeScale,
    { delays, medianMs, medianIsBound }: SeriesSide,
    y: number,
    isAfter: boolean,
  ): void {
    context.strokeStyle = palette.line;
    context.lineWidth = 1;
    context.beginPath();
    context.moveTo(scale.left, y);
    context.lineTo(scale.right, y);
    context.stroke();
    context.fillStyle = palette.handling;
    context.strokeStyle = palette.soft;
    context.lineWidth = 1.6;
    for (const { ms, isBound } of delays) {
      context.beginPath();
      if (isBound) {
        context.moveTo(scale.x(0), y);
        context.lineTo(scale.x(ms), y);
        context.stroke();
        continue;
      }
      context.arc(scale.x(ms), y, DOT, 0, 2 * Math.PI);
      if (isAfter) context.fill();
      else context.stroke();
    }
    if (medianMs === undefined) return;
    const x = scale.x(medianMs);
    context.fillStyle = palette.ink;
    context.fillRect(x - 1, y - 8, 2, 16);
    context.font = FIGURE_FONT;
    context.fillText(
      medianIsBound ? `< ${durationText(medianMs)}` : durationText(medianMs),
      scale.right + 2 * MARGIN,
      y + 4,
    );
  }
}
