import { LiveAnnouncer } from '@angular/cdk/a11y';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { TEXT_FONT } from './canvas-fonts';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { HoverCardComponent } from './hover-card.component';
import { boxAt, boxByKey, type RowBox } from './box-rows';
import { keepDrawn, onResize, prepareCanvas } from './canvas';
import type { Palette } from './palette';
import { cardWords } from './words';

/** Least height of a row with the gap below it, and how high it grows where there is room. Pixels. */
const ROW = 22;
const MOST_ROW = 64;
const FOOT = 8;
/** How far into a wide box the card of one walked to by keys stands. Pixels. */
const BESIDE = 40;

/** A box where it is drawn. Pixels. */
export interface BoxPlace {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  /** Height of its row, with the gap below it. */
  readonly row: number;
}

/** Draws one box, on a canvas that has the font of texts. */
export type PaintBox<Box> = (box: Box, place: BoxPlace) => void;

/**
 * Boxes in rows, those inside one in the row below: the one flame graph of the tool. It knows where boxes are, and takes
 * pointer and keys; what they look like and say is up to the view.
 */
@Component({
  selector: 'np-box-graph',
  imports: [HoverCardComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      role="img"
      [attr.aria-label]="label()"
      tabindex="0"
      [style.height.px]="height()"
      (pointermove)="point($event)"
      (pointerleave)="pointed.emit(undefined)"
      (blur)="pointed.emit(undefined)"
      (click)="take(at($event))"
      (dblclick)="widen(at($event))"
      (keydown)="keyDown($event)"
    ></canvas>
    @if (card(); as card) {
      <np-hover-card
        [card]="card"
        [x]="pointer().x"
        [y]="pointer().y"
        [roomWidth]="pointer().width"
        [roomHeight]="height()"
      />
    }
  `,
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: auto;
    }
    canvas {
      display: block;
      width: 100%;
    }
  `,
})
export class BoxGraphComponent<Box extends RowBox> {
  readonly boxes = input.required<readonly Box[]>();
  /** What it is, and where the same is as text. */
  readonly label = input.required<string>();
  /** The box that keys start from; the first where there is none. */
  readonly current = input<Box>();
  /** Rows beyond so many are not drawn. */
  readonly maxDepth = input(Infinity);
  /** Makes what draws a box, once for each drawing. Whenever it is another, all is drawn anew. */
  readonly painter = input.required<(context: CanvasRenderingContext2D, palette: Palette) => PaintBox<Box>>();
  /** What is told of the box under the pointer. */
  readonly card = input<ItemCard>();
  /** The box under the pointer. */
  readonly pointed = output<Box | undefined>();
  readonly choose = output<Box>();
  /** To be as wide as all; undefined for all again. */
  readonly zoom = output<Box | undefined>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly #room = signal(0);
  readonly #rows = computed(() => {
    const deepest = this.boxes().reduce((most, { depth }) => Math.max(most, depth), 0);
    return Math.min(this.maxDepth(), deepest + 1);
  });
  readonly #row = computed(() =>
    Math.max(ROW, Math.min(MOST_ROW, Math.floor((this.#room() - FOOT) / this.#rows()))),
  );
  protected readonly height = computed(() => this.#rows() * this.#row() + FOOT);

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const destroyed = inject(DestroyRef);
    afterNextRender(() => onResize(host, () => this.#room.set(host.clientHeight), destroyed));
    const announcer = inject(LiveAnnouncer);
    effect(() => {
      const card = this.card();
      if (card === undefined || !this.#isWalkedTo) return;
      this.#isWalkedTo = false;
      void announcer.announce(cardWords(card));
    });
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.boxes(), this.painter(), this.maxDepth(), this.#row()],
      (palette) => this.#draw(palette),
    );
  }

  /** Whether the card is of a box that was walked to by keys, so that it is told. */
  #isWalkedTo = false;
  protected readonly pointer = signal({ x: 0, y: 0, width: 0 });

  protected point(event: MouseEvent): void {
    const box = this.at(event);
    const { offsetLeft, clientWidth } = this.canvas().nativeElement;
    this.pointer.set({
      x: offsetLeft + event.offsetX,
      y: event.offsetY,
      width: offsetLeft + clientWidth,
    });
    this.pointed.emit(box);
  }

  protected at({ offsetX, offsetY }: MouseEvent): Box | undefined {
    const share = offsetX / this.canvas().nativeElement.clientWidth;
    return boxAt(this.boxes(), share, Math.floor(offsetY / this.#row()));
  }

  protected take(box: Box | undefined): void {
    if (box !== undefined) this.choose.emit(box);
  }

  protected widen(box: Box | undefined): void {
    if (box !== undefined) this.zoom.emit(box);
  }

  protected keyDown(event: KeyboardEvent): void {
    const current = this.current() ?? this.boxes()[0];
    if (current === undefined) return;
    const next = boxByKey(this.boxes(), current, event.key);
    if (event.key === 'Enter') this.zoom.emit(current);
    else if (event.key === 'Escape') this.zoom.emit(undefined);
    else if (next !== undefined) this.#walkTo(next);
    else return;
    event.preventDefault();
  }

  #walkTo(box: Box): void {
    const { offsetLeft, clientWidth } = this.canvas().nativeElement;
    this.pointer.set({
      x: offsetLeft + box.left * clientWidth + Math.min(BESIDE, box.width * clientWidth),
      y: (box.depth + 0.5) * this.#row(),
      width: offsetLeft + clientWidth,
    });
    this.choose.emit(box);
    this.#isWalkedTo = true;
    this.pointed.emit(box);
  }

  #draw(palette: Palette): void {
    const { context, width } = prepareCanvas(this.canvas().nativeElement);
    const row = this.#row();
    const paint = this.painter()(context, palette);
    context.font = TEXT_FONT;
    for (const box of this.boxes()) {
      if (box.depth >= this.maxDepth()) continue;
      const wide = Math.max(0.5, box.width * width - 1);
      paint(box, { x: box.left * width, y: box.depth * row, width: wide, row });
    }
  }
}
