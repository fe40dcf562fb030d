import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, signal, viewChild } from '@angular/core';
import type { DifferenceBox } from '@nettle-patch/core';
import { TEXT_FONT } from '../shared/canvas-fonts';
import { boxAt, boxByKey } from '../shared/box-rows';
import { keepDrawn, prepareCanvas } from '../shared/canvas';
import { formatMs } from '../shared/format';
import type { Palette } from '../shared/palette';
import { fillOf } from '../shared/patterns';

const ROW = 22;
const MIN_TEXT = 30;
const MAX_DEPTHS = 60;

/**
 * The calls of both recordings as one flame graph. A box is as wide as what it took in both together; the hatched part
 * of it is the time before, the solid part the time after: half and half is no change.
 */
@Component({
  selector: 'np-flame-difference',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft">{{ words() }}</p>
    <div class="scroll">
      <canvas
        #canvas
        role="img"
        aria-label="Flame graph of the difference; the same as a table: Functions"
        tabindex="0"
        [style.height.px]="height()"
        (pointermove)="pointed.set(at($event))"
        (pointerleave)="pointed.set(undefined)"
        (keydown)="keyDown($event)"
      ></canvas>
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      min-height: 0;
    }
    p {
      min-height: 22px;
      margin: 0 0 6px;
      font-size: 13px;
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    .scroll {
      overflow: auto;
    }
    canvas {
      display: block;
      width: 100%;
    }
  `,
})
export class FlameDifferenceComponent {
  readonly boxes = input.required<readonly DifferenceBox[]>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly pointed = signal<DifferenceBox | undefined>(undefined);
  protected readonly height = computed(() => {
    const deepest = this.boxes().reduce((most, { depth }) => Math.max(most, depth), 0);
    return Math.min(MAX_DEPTHS, deepest + 1) * ROW + 4;
  });
  protected readonly words = computed(() => {
    const box = this.pointed();
    if (box === undefined)
      return 'Hatched: time before. Solid: time after. Half and half is no change; all hatched is gone, all solid is new.';
    const place = box.place === '' ? '' : `, ${box.place}`;
    return `${box.name}${place}: ${formatMs(box.beforeMs)} before, ${formatMs(box.afterMs)} after`;
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.boxes(), this.pointed()],
      (palette) => this.#draw(palette),
    );
  }

  protected at({ offsetX, offsetY }: MouseEvent): DifferenceBox | undefined {
    const share = offsetX / this.canvas().nativeElement.clientWidth;
    return boxAt(this.boxes(), share, Math.floor(offsetY / ROW));
  }

  protected keyDown(event: KeyboardEvent): void {
    const boxes = this.boxes();
    const current = this.pointed() ?? boxes[0];
    if (current === undefined) return;
    const next = boxByKey(boxes, current, event.key);
    if (next === undefined) return;
    event.preventDefault();
    this.pointed.set(next);
  }

  #draw(palette: Palette): void {
    const { context, width } = prepareCanvas(this.canvas().nativeElement);
    const pointed = this.pointed();
    const before = fillOf(context, 'hatch', palette.waiting, palette.waitingSoft);
    context.font = TEXT_FONT;
    for (const box of this.boxes()) {
      if (box.depth >= MAX_DEPTHS) continue;
      const [x, y] = [box.left * width, box.depth * ROW];
      const wide = Math.max(0.5, box.width * width - 1);
      const split = (wide * box.beforeMs) / (box.beforeMs + box.afterMs);
      context.fillStyle = before;
      context.fillRect(x, y, split, ROW - 3);
      context.fillStyle = palette.handling;
      context.fillRect(x + split, y, wide - split, ROW - 3);
      if (box === pointed) {
        context.strokeStyle = palette.nettle;
        context.lineWidth = 2;
        context.strokeRect(x + 1, y + 1, Math.max(1, wide - 2), ROW - 5);
      }
      if (wide >= MIN_TEXT) this.#name(context, palette, box, x, y, wide);
    }
  }

  /** On a strip of its own, as the ground changes under it. */
  #name(
    context: CanvasRenderingContext2D,
    palette: Palette,
    { name }: DifferenceBox,
    x: number,
    y: number,
    wide: number,
  ): void {
    context.save();
    context.beginPath();
    context.rect(x + 3, y + 2, Math.min(wide - 8, context.measureText(name).width + 8), ROW - 7);
    context.fillStyle = palette.panel;
    context.fill();
    context.clip();
    context.fillStyle = palette.ink;
    context.fillText(name, x + 7, y + 14);
    context.restore();
  }
}
