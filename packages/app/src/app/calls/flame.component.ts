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
import { MatButtonModule } from '@angular/material/button';
import { isTime, itemStyleCode, durationText } from '@nettle-patch/core';
import type { NamedBox } from '../../workers/analysis/queries/call-queries';
import { TEXT_FONT } from '../shared/canvas-fonts';
import { boxAt, boxByKey } from '../shared/box-rows';
import { keepDrawn, prepareCanvas } from '../shared/canvas';
import { lookFills } from '../timeline/style-fills';
import { RecordingService } from '../services/recording.service';
import { formatWeight } from '../shared/format';
import type { Palette } from '../shared/palette';

const ROW = 22;
const MIN_TEXT = 26;
/** Mean width of a letter. Pixels. */
const LETTER = 6.2;

/** Calls as boxes as wide as their time, callees under their caller. A click shows a function, a double click widens it. */
@Component({
  selector: 'np-flame',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head soft">
      <span>{{ words() }}</span>
      @if (zoomed()) {
        <button type="button" mat-button (click)="zoom.emit(undefined)">Show all calls</button>
      }
    </div>
    <div class="scroll">
      <canvas
        #canvas
        role="img"
        aria-label="Flame graph; the same as a tree: From the top"
        tabindex="0"
        [style.height.px]="height()"
        (pointermove)="point($event)"
        (pointerleave)="pointed.set(undefined)"
        (click)="chooseAt($event)"
        (dblclick)="zoomAt($event)"
        (keydown)="keyDown($event)"
      ></canvas>
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      min-width: 0;
    }
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
      min-height: 38px;
      padding: 0 18px;
      font-size: 13px;
      overflow: hidden;
      white-space: nowrap;
    }
    .scroll {
      overflow: auto;
      padding: 0 18px;
    }
    canvas {
      display: block;
      width: 100%;
    }
  `,
})
export class FlameComponent {
  readonly boxes = input.required<readonly NamedBox[]>();
  readonly selected = input<number>();
  readonly zoomed = input(false);
  readonly choose = output<NamedBox>();
  readonly zoom = output<number | undefined>();

  readonly #unit = inject(RecordingService).unit;
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly pointed = signal<NamedBox | undefined>(undefined);
  readonly #current = signal<NamedBox | undefined>(undefined);
  protected readonly height = computed(
    () => (this.boxes().reduce((most, { depth }) => Math.max(most, depth), 0) + 1) * ROW + 8,
  );
  protected readonly words = computed(() => {
    const box = this.pointed() ?? this.#current();
    if (box === undefined) return 'Each box is as wide as its time. Double-click widens one.';
    const place = box.place === '' ? '' : `, ${box.place}`;
    return `${box.name}${place}: ${this.#length(box.totalMs)} in all, ${this.#length(box.selfMs)} in its own code`;
  });

  #length(value: number): string {
    const unit = this.#unit();
    return isTime(unit) ? durationText(value) : formatWeight(value, unit);
  }

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.boxes(), this.selected()],
      (palette) => this.#draw(palette),
    );
  }

  protected point(event: PointerEvent): void {
    this.pointed.set(this.#at(event));
  }

  protected chooseAt(event: MouseEvent): void {
    this.#take(this.#at(event));
  }

  protected zoomAt(event: MouseEvent): void {
    const box = this.#at(event);
    if (box !== undefined) this.zoom.emit(box.node);
  }

  protected keyDown(event: KeyboardEvent): void {
    const current = this.#current() ?? this.boxes()[0];
    if (current === undefined) return;
    const next = boxByKey(this.boxes(), current, event.key);
    if (event.key === 'Enter') this.zoom.emit(current.node);
    else if (event.key === 'Escape') this.zoom.emit(undefined);
    else if (next !== undefined) this.#take(next);
    else return;
    event.preventDefault();
  }

  #take(box: NamedBox | undefined): void {
    if (box === undefined) return;
    this.#current.set(box);
    this.choose.emit(box);
  }

  #at({ offsetX, offsetY }: MouseEvent): NamedBox | undefined {
    const share = offsetX / this.canvas().nativeElement.clientWidth;
    return boxAt(this.boxes(), share, Math.floor(offsetY / ROW));
  }

  #draw(palette: Palette): void {
    const { context, width } = prepareCanvas(this.canvas().nativeElement);
    const selected = this.selected();
    const fills = lookFills(context, palette);
    context.font = TEXT_FONT;
    for (const box of this.boxes()) {
      const [x, y] = [box.left * width, box.depth * ROW];
      const wide = Math.max(0.5, box.width * width - 1);
      const own = box.owner === 'own';
      context.fillStyle = fills[itemStyleCode(box.style)]!;
      context.fillRect(x, y, wide, own ? ROW - 2 : ROW - 6);
      if (box.functionId === selected || box.isHit) {
        context.strokeStyle = box.functionId === selected ? palette.ink : palette.nettle;
        context.lineWidth = 2;
        context.strokeRect(x + 1, y + 1, Math.max(1, wide - 2), ROW - 4);
      }
      if (wide < MIN_TEXT) continue;
      context.save();
      context.beginPath();
      context.rect(x, y, wide - 4, ROW);
      context.clip();
      if (box.owner === 'browser') {
        context.fillStyle = palette.panel;
        context.fillRect(x + 2, y + 2, Math.min(wide - 4, box.name.length * LETTER + 6), ROW - 10);
      }
      context.fillStyle = own ? palette.onScriptOwn : palette.ink;
      context.fillText(box.name, x + 5, y + 14);
      context.restore();
    }
  }
}
