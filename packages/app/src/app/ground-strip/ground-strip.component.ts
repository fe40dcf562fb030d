import { durationText, secondsText } from '@nettle-patch/core';
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
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { StingChoiceService } from '../services/sting-choice.service';
import { TimeWindowService } from '../services/time-window.service';
import { answerTo } from '../shared/answer-to';
import { keepDrawn, onWheel, prepareCanvas } from '../shared/canvas';
import { HoverCardComponent } from '../shared/hover-card.component';
import { incrementalRender } from '../shared/incremental-render';
import { TimeScale } from '../shared/time-scale';
import { moved, wheelZoom, zoomed } from '../shared/time-window';
import { GroundStripDrag, holdAt, type StripChange } from './ground-strip-drag';
import { GroundStripPainter, WINDOW_BAND, stingAt } from './ground-strip-painter';
import { stripCard } from './strip-card';
import { StripTableComponent } from './strip-table.component';

const MARGIN = 20;
/** How far a key moves what it moves, as shares of the recording: by itself, with Shift, and by pages. */
const KEY_STEP = 0.02;
const FINE_KEY_STEP = 0.002;
const PAGE_STEP = 0.1;

type End = 'start' | 'end';

/**
 * The whole recording at a glance. A drag sets the range of the lens or moves it, its grips adjust it, a double click clears
 * it; in the Timeline the outline of its window is moved and stretched at the foot, and the wheel zooms it.
 */
@Component({
  selector: 'np-ground-strip',
  imports: [HoverCardComponent, StripTableComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ground-strip.component.html',
  styleUrl: './ground-strip.component.scss',
})
export class GroundStripComponent {
  readonly opened = input.required<OpenedRecording>();
  protected readonly built = incrementalRender(1);
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService);
  readonly #choice = inject(StingChoiceService);
  readonly #window = inject(TimeWindowService);
  readonly #recordings = inject(RecordingService);
  readonly #chosen = inject(ChosenFunctionService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly width = signal(1);
  readonly #dragged = signal<StripChange | undefined>(undefined);
  readonly #drag = new GroundStripDrag();
  readonly #painter = new GroundStripPainter();
  /** Where the pointer is along the strip while nothing is dragged. CSS pixels. */
  protected readonly pointer = signal<number | undefined>(undefined);
  readonly #scale = computed(
    () => new TimeScale(0, Math.max(1, this.opened().range.endMs), MARGIN, this.width() - MARGIN),
  );
  readonly #range = computed(() => this.#changed('range') ?? this.#lens.lens().range);
  /** What the Timeline shows, while it shows a part. */
  readonly #shownWindow = computed(() => {
    const isThere = this.#address.view() === 'timeline' && !this.#window.isWhole();
    return isThere ? (this.#changed('window') ?? this.#window.shown()) : undefined;
  });
  readonly #lit = answerTo(
    computed(() => {
      const [opened, functionId] = [this.opened(), this.#chosen.functionId()];
      if (functionId === undefined) return undefined;
      return { functionId, thread: this.#lens.lens().thread, steps: opened.skyline.steps };
    }),
    ({ functionId, thread, steps }) => this.#recordings.ask('functionShares', functionId, thread, steps),
  );
  readonly #content = computed(() => ({
    opened: this.opened(),
    range: this.#range(),
    window: this.#shownWindow(),
    selected: this.#choice.selectedSting(),
    lit: this.#lit(),
  }));
  protected readonly card = computed(() => {
    const pointer = this.pointer();
    if (pointer === undefined) return undefined;
    const sting = stingAt(this.#scale(), this.opened().stings, pointer);
    return stripCard(this.opened(), this.#scale().ms(pointer), sting);
  });
  protected readonly label = computed(() => {
    const { range, stings, inputs } = this.opened();
    const shown = this.#lens.lens().range;
    const limits = shown ? ` Shown: ${durationText(shown.startMs)} to ${durationText(shown.endMs)}.` : '';
    return `Overview of ${durationText(range.endMs)} with ${stings.length} stings and ${inputs.length} inputs.${limits} Arrow keys move the range, Escape clears it.`;
  });
  /** The ends of the range as sliders: the ends of the recording while there is none. */
  protected readonly thumbs = computed(() => {
    const whole = this.opened().range;
    const { startMs, endMs } = this.#range() ?? { startMs: 0, endMs: whole.endMs };
    const thumb = (end: End, label: string, ms: number, min: number, max: number) => ({
      end,
      label,
      min: Math.round(min),
      max: Math.round(max),
      now: Math.round(ms),
      text: secondsText(ms),
      x: this.#scale().x(ms),
    });
    return [
      thumb('start', 'Start of the range', startMs, 0, endMs),
      thumb('end', 'End of the range', endMs, startMs, whole.endMs),
    ];
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => this.#content(),
      (palette) => {
        const { context, height } = prepareCanvas(this.canvas().nativeElement);
        this.#painter.paint({ context, scale: this.#scale(), height, palette }, this.#content());
      },
      ({ width }) => this.width.set(width),
    );
    onWheel(
      () => this.canvas().nativeElement,
      (event) => this.#wheel(event),
    );
  }

  protected down(event: PointerEvent): void {
    if (event.button !== 0) return;
    const canvas = this.canvas().nativeElement;
    canvas.setPointerCapture(event.pointerId);
    const inBand = event.offsetY >= canvas.clientHeight - WINDOW_BAND;
    const parts = { range: this.#lens.lens().range, window: this.#shownWindow() };
    this.#drag.begin(event.offsetX, holdAt(event.offsetX, inBand, this.#scale(), parts));
  }

  protected move(event: PointerEvent): void {
    this.pointer.set(event.buttons === 0 ? event.offsetX : undefined);
    this.#dragged.set(this.#drag.move(event.offsetX, this.#scale()));
  }

  protected up(event: PointerEvent): void {
    if (event.button !== 0) return;
    const change = this.#drag.end(event.offsetX, this.#scale());
    this.#dragged.set(undefined);
    if (change?.part === 'window') this.#window.shown.set(change.range);
    else if (change !== undefined) this.setRange(change.range);
    else {
      const sting = stingAt(this.#scale(), this.opened().stings, event.offsetX);
      if (sting !== undefined) this.#show(sting);
    }
  }

  /** A drag that the browser takes over, as for scrolling, is none. */
  protected cancelled(): void {
    this.#drag.cancel();
    this.#dragged.set(undefined);
    this.pointer.set(undefined);
  }

  /** Keys on the drawing move the range as it is. */
  protected key(event: KeyboardEvent): void {
    if (event.key === 'Escape') this.setRange(undefined);
    const step = stepOf(event);
    if (step === undefined) return;
    event.preventDefault();
    const { endMs } = this.opened().range;
    const now = this.#lens.lens().range ?? { startMs: 0, endMs: endMs / 4 };
    this.setRange(moved({ startMs: 0, endMs }, now, step * endMs));
  }

  /** Keys on a thumb move that end of the range, as far as the other. */
  protected thumbKey(event: KeyboardEvent, end: End): void {
    if (event.key === 'Escape') this.setRange(undefined);
    const { endMs: wholeMs } = this.opened().range;
    const now = this.#lens.lens().range ?? { startMs: 0, endMs: wholeMs };
    const [least, most] = end === 'start' ? [0, now.endMs] : [now.startMs, wholeMs];
    const ms = end === 'start' ? now.startMs : now.endMs;
    const step = stepOf(event);
    const moved = event.key === 'Home' ? least : event.key === 'End' ? most : step && ms + step * wholeMs;
    if (moved === undefined) return;
    event.preventDefault();
    const to = Math.max(least, Math.min(most, moved));
    const range = end === 'start' ? { startMs: to, endMs: now.endMs } : { startMs: now.startMs, endMs: to };
    if (range.endMs > range.startMs) this.setRange(range);
  }

  protected setRange(range: TimeRange | undefined): void {
    this.#lens.change({ range });
  }

  #changed(part: StripChange['part']): TimeRange | undefined {
    const dragged = this.#dragged();
    return dragged?.part === part ? dragged.range : undefined;
  }

  /** Zooms the window of the Timeline about the moment under the pointer. */
  #wheel(event: WheelEvent): void {
    if (this.#address.view() !== 'timeline') return;
    event.preventDefault();
    const atMs = this.#scale().ms(event.offsetX);
    this.#window.shown.set(zoomed(this.opened().range, this.#window.shown(), atMs, wheelZoom(event)));
  }

  /** A sting in Stings and in the time view, else in Stings. */
  #show(sting: number): void {
    const view = this.#address.view() === 'timeline' ? 'timeline' : 'stings';
    void this.#address.go(view, this.opened().id, { sting });
  }
}

/** How far a key moves, as a share of the recording; undefined where it moves nothing. */
function stepOf({ key, shiftKey }: KeyboardEvent): number | undefined {
  const step = shiftKey ? FINE_KEY_STEP : KEY_STEP;
  const steps: Readonly<Record<string, number>> = {
    ArrowRight: step,
    ArrowUp: step,
    ArrowLeft: -step,
    ArrowDown: -step,
    PageUp: PAGE_STEP,
    PageDown: -PAGE_STEP,
  };
  return steps[key];
}
