import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, signal, viewChild } from '@angular/core';
import { countText, memoryWords, runText, type AlternativeResult } from '@nettle-patch/core';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { keepDrawn, prepareCanvas } from '../shared/canvas';
import { HoverCardComponent, ROOM_BELOW_LINE, type PlacedCard } from '../shared/hover-card.component';
import { nearestPoint } from '../shared/nearest-point';
import type { Palette } from '../shared/palette';
import { TimeScale } from '../shared/time-scale';

const MIDDLE_Y = 15;
const DOT = 4;
const MARGIN = 8;

/** The starts of one alternative as points on an axis that begins at nothing and that all alternatives share. */
@Component({
  selector: 'np-trial-plot',
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
      height: 30px;
    }
  `,
})
export class TrialPlotComponent {
  readonly alternative = input.required<AlternativeResult>();
  /** The end of the axis. Milliseconds. */
  readonly mostMs = input.required<number>();

  protected readonly ROOM_BELOW = ROOM_BELOW_LINE;
  protected readonly pointed = signal<PlacedCard | undefined>(undefined);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly words = computed(() => {
    const { runMs } = this.alternative();
    return runMs.length === 0 ? 'Not timed' : `A run in each start: ${runMs.map(runText).join(', ')}`;
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.alternative(), this.mostMs()],
      (palette) => this.#draw(palette),
    );
  }

  /** Tells of the start that is nearest to the pointer. */
  protected point({ offsetX, offsetY }: PointerEvent): void {
    const { clientWidth } = this.canvas().nativeElement;
    const alternative = this.alternative();
    const { name, runMs, medianMs } = alternative;
    const scale = this.#scale(clientWidth);
    const nearest = nearestPoint(runMs, (ms) => scale.x(ms), offsetX);
    if (nearest === undefined) return this.pointed.set(undefined);
    const card: ItemCard = {
      what: 'Start',
      title: name,
      place: '',
      facts: [
        { label: 'a run', text: runText(nearest) },
        { label: 'median', text: runText(medianMs!) },
        { label: 'starts', text: countText(runMs.length) },
        { label: 'memory a run', text: memoryWords(alternative) },
      ],
    };
    this.pointed.set({ card, x: offsetX, y: offsetY, roomWidth: clientWidth });
  }

  #scale(width: number): TimeScale {
    return new TimeScale(0, this.mostMs(), MARGIN, width - MARGIN);
  }

  #draw(palette: Palette): void {
    const { context, width } = prepareCanvas(this.canvas().nativeElement);
    const scale = this.#scale(width);
    const { runMs, medianMs } = this.alternative();
    context.strokeStyle = palette.line;
    context.beginPath();
    context.moveTo(scale.left, MIDDLE_Y);
    context.lineTo(scale.right, MIDDLE_Y);
    context.stroke();
    context.fillStyle = palette.handling;
    context.globalAlpha = 0.55;
    for (const ms of runMs) {
      context.beginPath();
      context.arc(scale.x(ms), MIDDLE_Y, DOT, 0, 2 * Math.PI);
      context.fill();
    }
    context.globalAlpha = 1;
    if (medianMs === undefined) return;
    context.fillStyle = palette.ink;
    context.fillRect(scale.x(medianMs) - 1, MIDDLE_Y - 10, 2, 20);
  }
}
