import { LiveAnnouncer } from '@angular/cdk/a11y';
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { OpenedSting } from '../../../workers/analysis/analysis-results';
import { keepDrawn, prepareCanvas } from '../../shared/canvas';
import type { Palette } from '../../shared/palette';
import { layOutAnatomy, shapeAt, type Shape } from './anatomy-layout';
import { HoverCardComponent } from '../../shared/hover-card.component';
import { anatomyCard } from './anatomy-card';
import { shapeByKey } from './anatomy-keys';
import { AnatomyPainter } from './anatomy-painter';
import type { ChosenPart } from '../chosen-bar.component';
import { AnatomyTableComponent } from './anatomy-table.component';

const INITIAL_WIDTH = 780;
/** A card may reach below the drawing. Pixels. */
const ROOM_BELOW = 150;
/** How far into a wide shape the card of one walked to by keys stands. Pixels. */
const MIN_BESIDE = 40;

/** The drawing of a sting taken apart, and the same as a table. */
@Component({
  selector: 'np-anatomy',
  imports: [AnatomyTableComponent, HoverCardComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="drawing">
      <canvas
        #canvas
        tabindex="0"
        role="application"
        aria-roledescription="drawing"
        aria-describedby="anatomy-table"
        [attr.aria-label]="label()"
        [style.height.px]="layout().height"
        (pointermove)="point($event)"
        (pointerleave)="pointed.set(undefined)"
        (blur)="pointed.set(undefined)"
        (click)="take(pointed())"
        (keydown)="keyDown($event)"
      ></canvas>
      @if (pointed(); as shape) {
        <i
          class="pointed"
          aria-hidden="true"
          [style.left.px]="shape.x - 2"
          [style.top.px]="shape.y - 2"
          [style.width.px]="shape.width"
          [style.height.px]="shape.height"
        ></i>
      }
      @if (card(); as card) {
        <np-hover-card
          [card]="card"
          [x]="cardAt().x"
          [y]="cardAt().y"
          [roomWidth]="width()"
          [roomHeight]="layout().height + ROOM_BELOW"
        />
      }
    </div>
    <np-anatomy-table id="anatomy-table" [shown]="shown()" />
  `,
  styles: `
    .drawing {
      position: relative;
    }
    canvas {
      display: block;
      width: 100%;
    }
    .pointed {
      position: absolute;
      box-sizing: content-box;
      min-width: 2px;
      border: 2px solid var(--nettle);
      pointer-events: none;
    }
  `,
})
export class AnatomyComponent {
  readonly shown = input.required<OpenedSting>();
  readonly selected = input<number>();
  readonly choose = output<number>();
  readonly part = output<ChosenPart>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly ROOM_BELOW = ROOM_BELOW;
  protected readonly width = signal(INITIAL_WIDTH);
  /** What is under the pointer, or was walked to by keys. */
  protected readonly pointed = linkedSignal<OpenedSting, Shape | undefined>({
    source: this.shown,
    computation: () => undefined,
  });
  protected readonly cardAt = signal({ x: 0, y: 0 });
  protected readonly layout = computed(() => {
    const { anatomy, functions } = this.shown();
    return layOutAnatomy(anatomy, functions, this.width());
  });
  protected readonly card = computed(() => {
    const pointed = this.pointed();
    return pointed === undefined ? undefined : anatomyCard(pointed, this.shown());
  });
  protected readonly label = computed(
    () =>
      `Anatomy of: ${this.shown().anatomy.sting.label}. Arrow keys walk through its parts, Enter opens one.`,
  );
  readonly #announcer = inject(LiveAnnouncer);

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.layout(), this.selected()],
      (palette) => this.#draw(palette),
      ({ width }) => this.width.set(width),
    );
  }

  protected point(event: PointerEvent): void {
    const shape = shapeAt(this.layout(), event.offsetX, event.offsetY);
    if (shape !== this.pointed()) this.pointed.set(shape);
    this.cardAt.set({ x: event.offsetX, y: event.offsetY });
  }

  protected keyDown(event: KeyboardEvent): void {
    const pointed = this.pointed();
    if (event.key === 'Enter' && pointed !== undefined) this.take(pointed);
    else if (event.key === 'Escape' && pointed !== undefined) this.pointed.set(undefined);
    else {
      const next = shapeByKey(this.layout().shapes, pointed, event.key);
      if (next === undefined) return;
      this.pointed.set(next);
      this.cardAt.set({
        x: Math.max(0, next.x) + Math.min(next.width, MIN_BESIDE),
        y: next.y + next.height / 2,
      });
      void this.#announcer.announce(next.words);
    }
    event.preventDefault();
    event.stopPropagation();
  }

  protected take(shape: Shape | undefined): void {
    if (shape === undefined) return;
    if (shape.functionId !== undefined) this.choose.emit(shape.functionId);
    this.part.emit({ words: shape.words, range: shape.range });
  }

  #draw(palette: Palette): void {
    const { sting } = this.shown().anatomy;
    const { context } = prepareCanvas(this.canvas().nativeElement);
    new AnatomyPainter(context, {
      palette,
      selected: this.selected(),
      answered: sting.interaction !== undefined,
      budgetMs: sting.budgetMs,
    }).paint(this.layout());
  }
}
