import { countText } from '@nettle-patch/core';
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { InteractionRow, InteractionSlice } from '@nettle-patch/core';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { HoverCardComponent } from '../shared/hover-card.component';
import { interactionCard } from './interaction-card';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { keepDrawn, prepareCanvas, type CanvasSize } from '../shared/canvas';
import { isTaken } from '../shared/keys';
import type { Palette } from '../shared/palette';
import { TimeScale } from '../shared/time-scale';
import { ladderHeight, ladderLines, linesIn } from './ladder-layout';
import { LadderPainter } from './ladder-painter';
import { answerTo } from '../shared/answer-to';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { EMPTY, map, mergeMap, type Observable } from 'rxjs';

const AXIS_HEIGHT = 24;
const FOOT = 10;
const RIGHT_MARGIN = 76;
/** The same where outcomes are told, too. */
const OUTCOME_MARGIN = 204;
const LEFT = 18;

/** Every interaction as a row, all beginning at their input, those of one label below each other. */
@Component({
  selector: 'np-ladder',
  imports: [HoverCardComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #scroller class="scroller" (scroll)="scrolled()">
      <div [style.height.px]="height()">
        <div
          class="stage"
          tabindex="0"
          role="listbox"
          aria-label="Interactions, each from its input"
          [attr.aria-activedescendant]="selected() === undefined ? null : 'row-' + selected()"
          (keydown)="keyDown($event)"
        >
          <canvas
            #canvas
            aria-hidden="true"
            (click)="clicked($event)"
            (pointermove)="point($event)"
            (pointerleave)="pointed.set(undefined)"
          ></canvas>
          @if (pointed(); as one) {
            <np-hover-card
              [card]="one.card"
              [x]="one.x"
              [y]="one.y"
              [roomWidth]="size().width"
              [roomHeight]="size().height"
            />
          }
          @for (row of listed(); track row.interaction) {
            <div
              class="unseen"
              role="option"
              [id]="'row-' + row.interaction"
              [attr.aria-selected]="row.interaction === selected()"
            >
              {{ row.label }}, {{ row.measured ? '' : 'below ' }}{{ count(row.feltMs) }} ms
              {{ row.outcomeMs === undefined ? '' : ', outcome after ' + count(row.outcomeMs) + ' ms' }}
            </div>
          }
        </div>
      </div>
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-height: 0;
      min-width: 0;
    }
    .scroller {
      height: 100%;
      overflow: hidden auto;
      container-type: size;
    }
    .scroller > div {
      min-height: 100%;
    }
    .stage {
      position: sticky;
      top: 0;
      height: 100cqh;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
    .stage:focus-visible {
      outline-offset: -2px;
    }
  `,
})
export class LadderComponent {
  readonly opened = input.required<OpenedRecording>();
  /** Number of the interaction that is selected. */
  readonly selected = input<number>();
  readonly choose = output<number>();

  readonly #recordings = inject(RecordingService);
  readonly #lens = inject(LensService).lens;
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');
  readonly #all = answerTo(
    computed(() => this.opened()),
    () => this.#recordings.ask('interactionRows'),
  );
  readonly #rows = computed((): readonly InteractionRow[] => this.#all() ?? []);
  protected readonly size = signal<CanvasSize>({ width: 0, height: 0 });
  protected readonly pointed = signal<
    { readonly card: ItemCard; readonly x: number; readonly y: number } | undefined
  >(undefined);
  readonly #scrollTop = signal(0);
  readonly #slices = signal<ReadonlyMap<number, readonly InteractionSlice[]>>(new Map());
  readonly #asked = new Set<number>();

  readonly #responseMs = computed(() => this.opened().thresholds.responseMs);
  /** The rows that the lens leaves, each with its place among all. */
  readonly #left = computed(() => {
    const { range, minMs, text } = this.#lens();
    const wanted = text.toLowerCase();
    return this.#rows().filter(
      ({ startMs, feltMs, label }) =>
        (range === undefined || (startMs < range.endMs && startMs + feltMs > range.startMs)) &&
        feltMs >= minMs &&
        label.toLowerCase().includes(wanted),
    );
  });
  protected readonly count = countText;
  /** The rows that are seen. */
  protected readonly listed = computed(() =>
    this.#seen().flatMap((line) => (line.type === 'row' ? line.row : [])),
  );
  readonly #lines = computed(() =>
    ladderLines(this.#left(), this.#responseMs(), this.size().height - AXIS_HEIGHT - FOOT),
  );
  protected readonly height = computed(() => ladderHeight(this.#lines()) + AXIS_HEIGHT + FOOT);
  readonly #seen = computed(() => linesIn(this.#lines(), this.#scrollTop(), this.size().height));
  readonly #scale = computed(() => {
    const longest = this.#left().reduce(
      (most, { feltMs, outcomeMs = 0 }) => Math.max(most, feltMs, outcomeMs),
      1,
    );
    const hasOutcomes = this.#left().some(({ outcomeMs }) => outcomeMs !== undefined);
    const margin = hasOutcomes ? OUTCOME_MARGIN : RIGHT_MARGIN;
    return new TimeScale(0, longest, LEFT, Math.max(LEFT + 1, this.size().width - margin));
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.#seen(), this.#slices(), this.#scale(), this.selected()],
      (palette) => this.#draw(palette),
      (size) => this.size.set(size),
    );
    toObservable(computed(() => ({ all: this.#rows(), seen: this.listed() })))
      .pipe(
        mergeMap(({ all, seen }) => this.#slicesOf(all, seen)),
        takeUntilDestroyed(),
      )
      .subscribe((slices) => this.#slices.update((known) => new Map([...known, ...slices])));
  }

  protected scrolled(): void {
    this.pointed.set(undefined);
    this.#scrollTop.set(this.scroller().nativeElement.scrollTop);
  }

  protected clicked({ offsetY }: MouseEvent): void {
    const row = this.#rowAt(offsetY);
    if (row !== undefined) this.choose.emit(row.interaction);
  }

  /** Tells of the row under the pointer. */
  protected point({ offsetX, offsetY }: PointerEvent): void {
    const row = this.#rowAt(offsetY);
    this.pointed.set(
      row === undefined
        ? undefined
        : { card: interactionCard(row, this.#responseMs()), x: offsetX, y: offsetY },
    );
  }

  #rowAt(offsetY: number): InteractionRow | undefined {
    const y = offsetY - AXIS_HEIGHT + this.#scrollTop();
    const line = this.#lines().find(({ top, height }) => y >= top && y < top + height);
    return line?.type === 'row' ? line.row : undefined;
  }

  protected keyDown(event: KeyboardEvent): void {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step === 0 || isTaken(event)) return;
    const rows = this.#lines().filter((line) => line.type === 'row');
    const at = rows.findIndex(({ row }) => row.interaction === this.selected());
    const next = rows[Math.max(0, Math.min(rows.length - 1, at + step))];
    event.preventDefault();
    if (next === undefined) return;
    this.choose.emit(next.row.interaction);
    const scroller = this.scroller().nativeElement;
    const room = scroller.clientHeight - AXIS_HEIGHT - next.height;
    if (next.top < scroller.scrollTop || next.top > scroller.scrollTop + room)
      scroller.scrollTop = Math.max(0, next.top - room / 2);
  }

  /** The slices of the rows that are seen and were not asked for yet, by interaction. */
  #slicesOf(
    all: readonly InteractionRow[],
    seen: readonly InteractionRow[],
  ): Observable<ReadonlyMap<number, readonly InteractionSlice[]>> {
    const indexes = seen.map((row) => all.indexOf(row)).filter((index) => !this.#asked.has(index));
    if (indexes.length === 0) return EMPTY;
    for (const index of indexes) this.#asked.add(index);
    return this.#recordings
      .ask('interactionSlices', indexes)
      .pipe(map((found) => new Map(found.map((slices, at) => [all[indexes[at]!]!.interaction, slices]))));
  }

  #draw(palette: Palette): void {
    const { context, height } = prepareCanvas(this.canvas().nativeElement);
    new LadderPainter(context, palette).paint({
      lines: this.#seen(),
      pieces: this.#slices(),
      scale: this.#scale(),
      scrollTop: this.#scrollTop(),
      height,
      axisHeight: AXIS_HEIGHT,
      budgetMs: this.#responseMs(),
      selected: this.selected(),
    });
  }
}
