import { durationText } from '@nettle-patch/core';
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import { AddressService } from '../services/address.service';
import { LensService } from '../services/lens.service';
import { StingChoiceService } from '../services/sting-choice.service';
import { keepDrawn, prepareCanvas } from '../shared/canvas';
import { incrementalRender } from '../shared/incremental-render';
import { TimeScale } from '../shared/time-scale';
import { GroundStripDrag } from './ground-strip-drag';
import { GroundStripPainter, stingAt } from './ground-strip-painter';
import { StripTableComponent } from './strip-table.component';

const MARGIN = 20;
const KEY_STEP = 0.02;

/** The whole recording at a glance. Drag sets the range, its edges adjust it, a double click clears it. */
@Component({
  selector: 'np-ground-strip',
  imports: [StripTableComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      role="img"
      [attr.aria-label]="label()"
      (pointerdown)="down($event)"
      (pointermove)="move($event)"
      (pointerup)="up($event)"
      (dblclick)="setRange(undefined)"
      (keydown)="key($event)"
    ></canvas>
    @if (built() > 0) {
      <np-strip-table [opened]="opened()" />
    }
  `,
  styles: `
    :host {
      position: relative;
      overflow: hidden;
      display: block;
      height: 64px;
      border-top: 1px solid var(--line);
      background: var(--shade);
    }
    canvas {
      display: block;
      width: 100%;
      height: 63px;
      cursor: crosshair;
      touch-action: none;
    }
    canvas:focus-visible {
      outline-offset: -2px;
    }
  `,
})
export class GroundStripComponent {
  readonly opened = input.required<OpenedRecording>();
  protected readonly built = incrementalRender(1);
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService);
  readonly #choice = inject(StingChoiceService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly #width = signal(1);
  readonly #dragged = signal<TimeRange | undefined>(undefined);
  readonly #drag = new GroundStripDrag();
  readonly #painter = new GroundStripPainter();
  readonly #scale = computed(
    () => new TimeScale(0, Math.max(1, this.opened().range.endMs), MARGIN, this.#width() - MARGIN),
  );
  readonly #content = computed(() => ({
    opened: this.opened(),
    range: this.#dragged() ?? this.#lens.lens().range,
    selected: this.#choice.selectedSting(),
  }));
  protected readonly label = computed(() => {
    const { range, stings, inputs } = this.opened();
    const shown = this.#lens.lens().range;
    const limits = shown ? ` Shown: ${durationText(shown.startMs)} to ${durationText(shown.endMs)}.` : '';
    return `Overview of ${durationText(range.endMs)} with ${stings.length} stings and ${inputs.length} inputs.${limits} Arrow keys move the range, Escape clears it.`;
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => this.#content(),
      (palette) => {
        const { context, height } = prepareCanvas(this.canvas().nativeElement);
        this.#painter.paint(context, this.#scale(), height, this.#content(), palette);
      },
      ({ width }) => this.#width.set(width),
    );
  }

  protected down(event: PointerEvent): void {
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    this.#drag.begin(event.offsetX, this.#scale(), this.#lens.lens().range);
  }

  protected move(event: PointerEvent): void {
    this.#dragged.set(this.#drag.move(event.offsetX, this.#scale()));
  }

  protected up(event: PointerEvent): void {
    const range = this.#drag.end(event.offsetX, this.#scale());
    this.#dragged.set(undefined);
    if (range !== undefined) {
      this.setRange(range);
      return;
    }
    const sting = stingAt(this.#scale(), this.opened().stings, event.offsetX);
    if (sting !== undefined) this.#show(sting);
  }

  protected key(event: KeyboardEvent): void {
    const direction = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (event.key === 'Escape') this.setRange(undefined);
    if (direction === 0) return;
    event.preventDefault();
    const { endMs } = this.opened().range;
    const now = this.#lens.lens().range ?? { startMs: 0, endMs: endMs / 4 };
    const lengthMs = now.endMs - now.startMs;
    const startMs = Math.max(0, Math.min(endMs - lengthMs, now.startMs + direction * KEY_STEP * endMs));
    this.setRange({ startMs, endMs: startMs + lengthMs });
  }

  protected setRange(range: TimeRange | undefined): void {
    this.#lens.change({ range });
  }

  /** A sting in Stings and in the time view, else in Stings. */
  #show(sting: number): void {
    const view = this.#address.view() === 'timeline' ? 'timeline' : 'stings';
    void this.#address.go(view, this.opened().id, { sting });
  }
}
