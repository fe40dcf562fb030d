import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, signal, viewChild } from '@angular/core';
import {
  boundWords,
  type ComparedSeries,
  type SeriesSide,
  countText,
  durationText,
} from '@nettle-patch/core';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { HoverCardComponent, ROOM_BELOW_LINE, type PlacedCard } from '../shared/hover-card.component';
import { nearestPoint } from '../shared/nearest-point';
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
  imports: [HoverCardComponent],
  template: `
    <canvas
      #canvas
      role="img"
      [attr.aria-label]="words()"
      (pointermove)="point($event)"
      (pointerleave)="pointed.set(undefined)"
    ></canvas>
    @if (pointed(); as one) {
      <np-hover-card
        [card]="one.card"
        [x]="one.x"
        [y]="one.y"
        [roomWidth]="one.roomWidth"
        [roomHeight]="ROOM_BELOW"
      />
    }
  `,
  styles: `
    :host {
      display: block;
      position: relative;
    }
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
  /** The end of the axis, the same for all plots that are read together. Milliseconds. */
  readonly mostMs = input.required<number>();

  protected readonly ROOM_BELOW = ROOM_BELOW_LINE;
  protected readonly pointed = signal<PlacedCard | undefined>(undefined);
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
      () => [this.series(), this.budgetMs(), this.mostMs()],
      (palette) => this.#draw(palette),
    );
  }

  /** Tells of the attempt that is nearest to the pointer. */
  protected point({ offsetX, offsetY }: PointerEvent): void {
    const { clientWidth } = this.canvas().nativeElement;
    const isAfter = offsetY > (BEFORE_Y + AFTER_Y) / 2;
    const { label, isInteraction, ...sides } = this.series();
    const side = isAfter ? sides.after : sides.before;
    const scale = this.#scale(clientWidth);
    const nearest = nearestPoint(side.delays, ({ ms }) => scale.x(ms), offsetX);
    if (nearest === undefined) return this.pointed.set(undefined);
    const budget = isInteraction ? `, budget ${durationText(this.budgetMs())}` : '';
    const card: ItemCard = {
      what: isAfter ? 'Attempt, after' : 'Attempt, before',
      title: label,
      place: '',
      facts: [
        {
          label: 'took',
          text: `${boundWords(nearest.ms, nearest.isBound)}${budget}`,
          over: isInteraction && !nearest.isBound && nearest.ms > this.budgetMs(),
        },
        ...(side.medianMs === undefined
          ? []
          : [{ label: 'median', text: boundWords(side.medianMs, side.medianIsBound) }]),
        { label: 'attempts', text: countText(side.count) },
      ],
    };
    this.pointed.set({ card, x: offsetX, y: offsetY, roomWidth: clientWidth });
  }

  #scale(width: number): TimeScale {
    return new TimeScale(0, this.mostMs(), MARGIN, width - FIGURES);
  }

  #draw(palette: Palette): void {
    const { context, width, height } = prepareCanvas(this.canvas().nativeElement);
    const { before, after, isInteraction } = this.series();
    const mostMs = this.mostMs();
    const scale = this.#scale(width);
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
