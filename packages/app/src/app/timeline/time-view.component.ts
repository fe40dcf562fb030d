import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  model,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import type { DrawnWindow, LaneInfo } from '../../workers/analysis/queries/timeline-queries';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { StingChoiceService } from '../services/sting-choice.service';
import { keepDrawn, onWheel, prepareCanvas, type CanvasSize } from '../shared/canvas';
import { isTaken } from '../shared/keys';
import type { Palette } from '../shared/palette';
import { TimeScale } from '../shared/time-scale';
import { AXIS_HEIGHT, heightOf, placeLanes, rowAt } from './lane-layout';
import { LaneHeadersComponent } from './lane-headers.component';
import type { ItemRef } from './item-parameter';
import { between, panned, wheelZoom, zoomed } from '../shared/time-window';
import { TimelinePainter } from './timeline-painter';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { filter } from 'rxjs';
import { answerTo } from '../shared/answer-to';
import { atRest } from '../shared/at-rest';
import { HoverCardComponent } from '../shared/hover-card.component';
import { paintPointer } from './pointer-painter';
import { latestInTurn } from '../shared/latest-in-turn';
import { secondsText } from '@nettle-patch/core';

/** Movement below this is a click. */
const CLICK_PIXELS = 4;
/** A pointer that has not moved for so long rests. */
const REST_MS = 80;
/** How far beside a thing a click still means it. */
const NEAR_PIXELS = 4;
const KEY_PAN = 0.2;
const KEY_ZOOM = 0.6;
/** So much more than is shown is fetched on each side, so that a small move has its picture at once. */
const BESIDE = 0.5;
/** What is narrower is drawn together. Pixels. */
const FINEST_PIXELS = 1.6;

/** A place that was clicked, or at which the pointer rests. */
export interface TimePlace {
  readonly lane: string;
  readonly row: number;
  readonly ms: number;
  readonly withinMs: number;
}

/** The lanes over their common time axis: drawn here, worked out elsewhere. */
@Component({
  selector: 'np-time-view',
  imports: [HoverCardComponent, LaneHeadersComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './time-view.component.html',
  styleUrl: './time-view.component.scss',
})
export class TimeViewComponent {
  readonly opened = input.required<OpenedRecording>();
  readonly lanes = input.required<readonly LaneInfo[]>();
  readonly folded = input.required<readonly string[]>();
  readonly selected = input<ItemRef>();
  /** The stretch of time that is shown. */
  readonly shown = model.required<TimeRange>();
  readonly choose = output<TimePlace>();
  readonly rangeChange = output<TimeRange | undefined>();
  readonly move = output<{ readonly lane: string; readonly step: number }>();
  readonly fold = output<string>();
  readonly hide = output<string>();

  readonly #recordings = inject(RecordingService);
  readonly #lens = inject(LensService).lens;
  readonly #choice = inject(StingChoiceService);
  readonly #chosen = inject(ChosenFunctionService);
  /** The functions in focus: all others are dimmed. */
  readonly #focusNames = this.#recordings.functionNames(computed(() => this.#lens().focus));
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly overlay = viewChild.required<ElementRef<HTMLCanvasElement>>('overlay');
  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');
  protected readonly size = signal<CanvasSize>({ width: 0, height: 0 });
  readonly #scrollTop = signal(0);
  readonly #wanted = computed(() => {
    const [shown, lanes, { width }] = [this.shown(), this.lanes(), this.size()];
    const besideMs = BESIDE * (shown.endMs - shown.startMs);
    return {
      opened: this.opened(),
      range: { startMs: shown.startMs - besideMs, endMs: shown.endMs + besideMs },
      pixels: Math.ceil((width * (1 + 2 * BESIDE)) / FINEST_PIXELS),
      ids: lanes.map(({ id }) => id),
      lit: this.#chosen.functionId(),
    };
  });
  /** What is drawn: asked for once at a time, and then about what is shown by then. */
  readonly #drawn = toSignal(
    toObservable(this.#wanted).pipe(
      filter(({ pixels, ids }) => pixels > 0 && ids.length > 0),
      latestInTurn(({ range, pixels, ids, lit }) => this.#recordings.ask('draw', range, pixels, ids, lit)),
    ),
  );
  readonly #dragged = signal<TimeRange | undefined>(undefined);
  readonly #pointerMs = signal<number | undefined>(undefined);
  #fromX: number | undefined;
  /** Where the pointer is while nothing is dragged. CSS pixels. */
  protected readonly pointer = signal<{ readonly x: number; readonly y: number } | undefined>(undefined);
  /** What is under the pointer once it rests, until it leaves. */
  readonly #rested = atRest(this.pointer, REST_MS);
  protected readonly card = answerTo(
    computed(() => {
      const rested = this.#rested();
      return rested === undefined || rested !== this.pointer()
        ? undefined
        : this.#placeAt(rested.x, rested.y);
    }),
    ({ lane, ms, row, withinMs }) => this.#recordings.ask('card', lane, ms, row, withinMs),
  );

  protected readonly placed = computed(() =>
    placeLanes(this.lanes(), this.folded(), this.size().height - AXIS_HEIGHT),
  );
  protected readonly height = computed(() => heightOf(this.placed()) + AXIS_HEIGHT);
  readonly #scale = computed(() => {
    const { startMs, endMs } = this.shown();
    return new TimeScale(startMs, endMs, 0, Math.max(1, this.size().width));
  });
  protected readonly label = computed(() => {
    const { startMs, endMs } = this.shown();
    const names = this.lanes().map(({ title }) => title);
    return `Time view from ${secondsText(startMs)} to ${secondsText(endMs)} with ${names.join(', ')}. The same as a table: button “Table”.`;
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => this.#follow(),
      (palette) => this.#draw(palette),
      (size) => this.size.set(size),
    );
    keepDrawn(
      () => this.overlay().nativeElement,
      () => [this.#pointerMs(), this.#scale()],
      (palette) => this.#drawPointer(palette),
    );
    onWheel(
      () => this.canvas().nativeElement,
      (event) => this.#wheel(event),
    );
  }

  protected scrolled(): void {
    this.#scrollTop.set(this.scroller().nativeElement.scrollTop);
  }

  protected down(event: PointerEvent): void {
    if (event.button !== 0) return;
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    this.#fromX = event.offsetX;
  }

  protected pointed(event: PointerEvent): void {
    this.#pointerMs.set(this.#scale().ms(event.offsetX));
    this.pointer.set(event.buttons === 0 ? { x: event.offsetX, y: event.offsetY } : undefined);
    if (this.#fromX === undefined || Math.abs(event.offsetX - this.#fromX) < CLICK_PIXELS) return;
    this.#dragged.set(between(this.#scale().ms(this.#fromX), this.#scale().ms(event.offsetX)));
  }

  protected up(event: PointerEvent): void {
    const dragged = this.#dragged();
    if (this.#fromX === undefined) return;
    this.#fromX = undefined;
    this.#dragged.set(undefined);
    if (dragged !== undefined) this.rangeChange.emit(dragged);
    else this.#click(event);
  }

  protected left(): void {
    this.#pointerMs.set(undefined);
    this.pointer.set(undefined);
  }

  /** A drag that the browser takes over, as for scrolling, is none. */
  protected cancelled(): void {
    this.#fromX = undefined;
    this.#dragged.set(undefined);
    this.left();
  }

  protected keyDown(event: KeyboardEvent): void {
    if (isTaken(event)) return;
    const { startMs, endMs } = this.shown();
    const middleMs = this.#pointerMs() ?? (startMs + endMs) / 2;
    const whole = this.opened().range;
    const next: Readonly<Record<string, () => TimeRange>> = {
      ArrowLeft: () => panned(whole, this.shown(), -KEY_PAN),
      ArrowRight: () => panned(whole, this.shown(), KEY_PAN),
      '+': () => zoomed(whole, this.shown(), middleMs, KEY_ZOOM),
      '=': () => zoomed(whole, this.shown(), middleMs, KEY_ZOOM),
      '-': () => zoomed(whole, this.shown(), middleMs, 1 / KEY_ZOOM),
      '0': () => whole,
    };
    const change = next[event.key];
    if (change === undefined) return;
    this.shown.set(change());
    event.preventDefault();
  }

  /** The things that are drawn, for steps from one to the next. */
  drawn(): DrawnWindow | undefined {
    return this.#drawn();
  }

  /** Scrolls so that a lane is seen. */
  reveal(laneId: string): void {
    const placed = this.placed().find(({ lane }) => lane.id === laneId);
    const scroller = this.scroller().nativeElement;
    if (placed === undefined) return;
    const isAbove = placed.top < scroller.scrollTop;
    const isBelow = placed.top > scroller.scrollTop + scroller.clientHeight - AXIS_HEIGHT - placed.rowHeight;
    if (isAbove || isBelow) scroller.scrollTop = Math.max(0, placed.top - AXIS_HEIGHT);
  }

  #wheel(event: WheelEvent): void {
    const whole = this.opened().range;
    const isSideways = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
    if (event.ctrlKey || event.metaKey) {
      const atMs = this.#scale().ms(event.offsetX);
      this.shown.set(zoomed(whole, this.shown(), atMs, wheelZoom(event)));
    } else if (isSideways) {
      const delta = event.deltaX === 0 ? event.deltaY : event.deltaX;
      this.shown.set(panned(whole, this.shown(), delta / Math.max(1, this.size().width)));
    } else return;
    event.preventDefault();
  }

  #click({ offsetX, offsetY }: PointerEvent): void {
    if (offsetY < AXIS_HEIGHT) this.#clickAxis(offsetX);
    const place = this.#placeAt(offsetX, offsetY);
    if (place !== undefined) this.choose.emit(place);
  }

  #placeAt(x: number, y: number): TimePlace | undefined {
    const at = rowAt(this.placed(), y - AXIS_HEIGHT + this.#scrollTop());
    if (at === undefined || y < AXIS_HEIGHT) return undefined;
    const withinMs = NEAR_PIXELS / this.#scale().pixelsPerMs;
    return { lane: at.placed.lane.id, row: at.row, ms: this.#scale().ms(x), withinMs };
  }

  #clickAxis(x: number): void {
    const { stings } = this.opened();
    const near = stings.findIndex(({ startMs }) => Math.abs(this.#scale().x(startMs) - x) < NEAR_PIXELS * 2);
    if (near >= 0) this.#choice.choose(near);
  }

  /** Reads all that the drawing depends on. */
  #follow(): unknown {
    return [
      this.placed(),
      this.#drawn(),
      this.#scale(),
      this.#scrollTop(),
      this.#dragged(),
      this.#lens(),
      this.#focusNames(),
      this.selected(),
      this.#choice.selectedSting(),
    ];
  }

  #draw(palette: Palette): void {
    const { context, height } = prepareCanvas(this.canvas().nativeElement);
    const { range, minMs, text, foldLibraries } = this.#lens();
    const { pauses, stings, header, thresholds } = this.opened();
    new TimelinePainter(context, palette).paint({
      lanes: this.placed(),
      drawn: this.#drawn()?.lanes ?? [],
      scale: this.#scale(),
      height,
      scrollTop: this.#scrollTop(),
      range: this.#dragged() ?? range,
      pauses,
      stings,
      selectedSting: this.#choice.selectedSting(),
      selected: this.selected(),
      refreshMs: header.refreshMs,
      longTaskMs: thresholds.longTaskMs,
      minMs,
      texts: this.#focusNames().length > 0 ? this.#focusNames() : text === '' ? [] : [text],
      foldLibraries,
    });
  }

  #drawPointer(palette: Palette): void {
    const { context, height } = prepareCanvas(this.overlay().nativeElement);
    const ms = this.#pointerMs();
    if (ms !== undefined) paintPointer(context, palette, this.#scale(), height, ms);
  }
}
