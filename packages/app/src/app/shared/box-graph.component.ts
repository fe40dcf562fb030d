import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, viewChild } from '@angular/core';
import { TEXT_FONT } from './canvas-fonts';
import { boxAt, boxByKey, type RowBox } from './box-rows';
import { keepDrawn, prepareCanvas } from './canvas';
import type { Palette } from './palette';

/** Height of a row with the gap below it. Pixels. */
export const BOX_ROW = 22;

/** A box where it is drawn. Pixels. */
export interface BoxPlace {
  readonly x: number;
  readonly y: number;
  readonly width: number;
}

/** Draws one box, on a canvas that has the font of texts. */
export type PaintBox<Box> = (box: Box, place: BoxPlace) => void;

/**
 * Boxes in rows, those inside one in the row below: the one flame graph of the tool. It knows where boxes are, and takes
 * pointer and keys; what they look like and say is up to the view.
 */
@Component({
  selector: 'np-box-graph',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      role="img"
      [attr.aria-label]="label()"
      tabindex="0"
      [style.height.px]="height()"
      (pointermove)="pointed.emit(at($event))"
      (pointerleave)="pointed.emit(undefined)"
      (click)="take(at($event))"
      (dblclick)="widen(at($event))"
      (keydown)="keyDown($event)"
    ></canvas>
  `,
  styles: `
    :host {
      display: block;
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
  /** The box under the pointer. */
  readonly pointed = output<Box | undefined>();
  readonly choose = output<Box>();
  /** To be as wide as all; undefined for all again. */
  readonly zoom = output<Box | undefined>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly height = computed(() => {
    const deepest = this.boxes().reduce((most, { depth }) => Math.max(most, depth), 0);
    return Math.min(this.maxDepth(), deepest + 1) * BOX_ROW + 8;
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.boxes(), this.painter(), this.maxDepth()],
      (palette) => this.#draw(palette),
    );
  }

  protected at({ offsetX, offsetY }: MouseEvent): Box | undefined {
    const share = offsetX / this.canvas().nativeElement.clientWidth;
    return boxAt(this.boxes(), share, Math.floor(offsetY / BOX_ROW));
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
    else if (next !== undefined) this.choose.emit(next);
    else return;
    event.preventDefault();
  }

  #draw(palette: Palette): void {
    const { context, width } = prepareCanvas(this.canvas().nativeElement);
    const paint = this.painter()(context, palette);
    context.font = TEXT_FONT;
    for (const box of this.boxes()) {
      if (box.depth >= this.maxDepth()) continue;
      const wide = Math.max(0.5, box.width * width - 1);
      paint(box, { x: box.left * width, y: box.depth * BOX_ROW, width: wide });
    }
  }
}
