import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { InteractionRow, RungPiece } from '@nettle-patch/core';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { keepDrawn, prepareCanvas, type CanvasSize } from '../shared/canvas';
import { isTaken } from '../shared/keys';
import type { Palette } from '../shared/palette';
import { TimeScale } from '../shared/time-scale';
import { ladderHeight, ladderLines, linesIn } from './ladder-layout';
import { LadderPainter } from './ladder-painter';

const AXIS_HEIGHT = 24;
const RIGHT_MARGIN = 76;
/** The same where outcomes are told, too. */
const OUTCOME_MARGIN = 204;
const LEFT = 18;

/** Every interaction as a row, all beginning at their input, those of one label below each other. */
@Component({
  selector: 'np-ladder',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #scroller class="scroller" (scroll)="scrolled()">
      <div [style.height.px]="height()">
        <div
          class="stage"
          tabindex="0"
          role="listbox"
          aria-label="Interactions, each from its input"
          [attr.aria-activedescendant]="selected() === undefined ? null : 'rung-' + selected()"
          (keydown)="keyDown($event)"
        >
          <canvas #canvas aria-hidden="true" (click)="clicked($event)"></canvas>
          @for (rung of listed(); track rung.interaction) {
            <div
              class="unseen"
              role="option"
              [id]="'rung-' + rung.interaction"
              [attr.aria-selected]="rung.interaction === selected()"
            >
              {{ rung.label }}, {{ rung.measured ? '' : 'below ' }}{{ rung.feltMs.toFixed(0) }} ms
              {{ rung.outcomeMs === undefined ? '' : ', outcome after ' + rung.outcomeMs.toFixed(0) + ' ms' }}
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
  readonly #rungs = signal<readonly InteractionRow[]>([]);
  readonly #size = signal<CanvasSize>({ width: 0, height: 0 });
  readonly #scrollTop = signal(0);
  readonly #pieces = signal<ReadonlyMap<number, readonly RungPiece[]>>(new Map());
  readonly #asked = new Set<number>();

  readonly #responseMs = computed(() => this.opened().thresholds.responseMs);
  /** The rungs that the lens leaves, each with its place among all. */
  readonly #left = computed(() => {
    const { range, minMs, text } = this.#lens();
    const wanted = text.toLowerCase();
    return this.#rungs().filter(
      ({ startMs, feltMs, label }) =>
        (range === undefined || (startMs < range.endMs && startMs + feltMs > range.startMs)) &&
        feltMs >= minMs &&
        label.toLowerCase().includes(wanted),
    );
  });
  /** The rungs that are seen. */
  protected readonly listed = computed(() =>
    this.#seen().flatMap((line) => (line.type === 'rung' ? line.rung : [])),
  );
  readonly #lines = computed(() => ladderLines(this.#left(), this.#responseMs()));
  protected readonly height = computed(() => ladderHeight(this.#lines()) + AXIS_HEIGHT + 10);
  readonly #seen = computed(() => linesIn(this.#lines(), this.#scrollTop(), this.#size().height));
  readonly #scale = computed(() => {
    const longest = this.#left().reduce(
      (most, { feltMs, outcomeMs = 0 }) => Math.max(most, feltMs, outcomeMs),
      1,
    );
    const hasOutcomes = this.#left().some(({ outcomeMs }) => outcomeMs !== undefined);
    const margin = hasOutcomes ? OUTCOME_MARGIN : RIGHT_MARGIN;
    return new TimeScale(0, longest, LEFT, Math.max(LEFT + 1, this.#size().width - margin));
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.#seen(), this.#pieces(), this.#scale(), this.selected()],
      (palette) => this.#draw(palette),
      (size) => this.#size.set(size),
    );
    effect(() => void this.#load(this.opened().id));
    effect(() => void this.#fetch());
  }

  protected scrolled(): void {
    this.#scrollTop.set(this.scroller().nativeElement.scrollTop);
  }

  protected clicked({ offsetY }: MouseEvent): void {
    const y = offsetY - AXIS_HEIGHT + this.#scrollTop();
    const line = this.#lines().find(({ top, height }) => y >= top && y < top + height);
    if (line?.type === 'rung') this.choose.emit(line.rung.interaction);
  }

  protected keyDown(event: KeyboardEvent): void {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step === 0 || isTaken(event)) return;
    const rungs = this.#lines().filter((line) => line.type === 'rung');
    const at = rungs.findIndex(({ rung }) => rung.interaction === this.selected());
    const next = rungs[Math.max(0, Math.min(rungs.length - 1, at + step))];
    event.preventDefault();
    if (next === undefined) return;
    this.choose.emit(next.rung.interaction);
    const scroller = this.scroller().nativeElement;
    const room = scroller.clientHeight - AXIS_HEIGHT - next.height;
    if (next.top < scroller.scrollTop || next.top > scroller.scrollTop + room)
      scroller.scrollTop = Math.max(0, next.top - room / 2);
  }

  async #load(id: string): Promise<void> {
    const rungs = await this.#recordings.rungs();
    if (this.opened().id === id) this.#rungs.set(rungs ?? []);
  }

  /** Asks for the pieces of the rungs that are seen and were not asked for yet. */
  async #fetch(): Promise<void> {
    const all = this.#rungs();
    const wanted = this.#seen().flatMap((line) => (line.type === 'rung' ? line.rung : []));
    const places = wanted.map((rung) => all.indexOf(rung)).filter((place) => !this.#asked.has(place));
    if (places.length === 0) return;
    for (const place of places) this.#asked.add(place);
    const pieces = (await this.#recordings.interactionSlices(places)) ?? [];
    const next = new Map(this.#pieces());
    pieces.forEach((one, at) => next.set(all[places[at]!]!.interaction, one));
    this.#pieces.set(next);
  }

  #draw(palette: Palette): void {
    const { context, height } = prepareCanvas(this.canvas().nativeElement);
    new LadderPainter(context, palette).paint({
      lines: this.#seen(),
      pieces: this.#pieces(),
      scale: this.#scale(),
      scrollTop: this.#scrollTop(),
      height,
      axisHeight: AXIS_HEIGHT,
      budgetMs: this.#responseMs(),
      selected: this.selected(),
    });
  }
}
