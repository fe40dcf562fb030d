import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { durationText, isTime, itemStyleCode } from '@nettle-patch/core';
import type { NamedBox } from '../../workers/analysis/queries/call-queries';
import { RecordingService } from '../services/recording.service';
import { BOX_ROW, BoxGraphComponent, type PaintBox } from '../shared/box-graph.component';
import { formatWeight } from '../shared/format';
import type { Palette } from '../shared/palette';
import { lookFills } from '../timeline/style-fills';

const MIN_TEXT = 26;
/** Mean width of a letter. Pixels. */
const LETTER = 6.2;

/** Calls as boxes as wide as their time, callees under their caller. A click shows a function, a double click widens it. */
@Component({
  selector: 'np-flame',
  imports: [MatButtonModule, BoxGraphComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head soft">
      <span>{{ words() }}</span>
      @if (zoomed()) {
        <button type="button" mat-button (click)="zoom.emit(undefined)">Show all calls</button>
      }
    </div>
    <np-box-graph
      label="Flame graph; the same as a tree: From the top"
      [boxes]="boxes()"
      [current]="current()"
      [painter]="painter()"
      (pointed)="pointed.set($event)"
      (choose)="take($event)"
      (zoom)="zoom.emit($event?.node)"
    />
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
    np-box-graph {
      padding: 0 18px;
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
  protected readonly pointed = signal<NamedBox | undefined>(undefined);
  protected readonly current = signal<NamedBox | undefined>(undefined);
  protected readonly words = computed(() => {
    const box = this.pointed() ?? this.current();
    if (box === undefined) return 'Each box is as wide as its time. Double-click widens one.';
    const place = box.place === '' ? '' : `, ${box.place}`;
    return `${box.name}${place}: ${this.#length(box.totalMs)} in all, ${this.#length(box.selfMs)} in its own code`;
  });
  protected readonly painter = computed(() => painterOf(this.selected()));

  protected take(box: NamedBox): void {
    this.current.set(box);
    this.choose.emit(box);
  }

  #length(value: number): string {
    const unit = this.#unit();
    return isTime(unit) ? durationText(value) : formatWeight(value, unit);
  }
}

function painterOf(selected: number | undefined) {
  return (context: CanvasRenderingContext2D, palette: Palette): PaintBox<NamedBox> => {
    const fills = lookFills(context, palette);
    return (box, { x, y, width }) => {
      const own = box.owner === 'own';
      context.fillStyle = fills[itemStyleCode(box.style)]!;
      context.fillRect(x, y, width, own ? BOX_ROW - 2 : BOX_ROW - 6);
      if (box.functionId === selected || box.isHit) {
        context.strokeStyle = box.functionId === selected ? palette.ink : palette.nettle;
        context.lineWidth = 2;
        context.strokeRect(x + 1, y + 1, Math.max(1, width - 2), BOX_ROW - 4);
      }
      if (width < MIN_TEXT) return;
      context.save();
      context.beginPath();
      context.rect(x, y, width - 4, BOX_ROW);
      context.clip();
      if (box.owner === 'browser') {
        context.fillStyle = palette.panel;
        context.fillRect(x + 2, y + 2, Math.min(width - 4, box.name.length * LETTER + 6), BOX_ROW - 10);
      }
      context.fillStyle = own ? palette.onScriptOwn : palette.ink;
      context.fillText(box.name, x + 5, y + 14);
      context.restore();
    };
  };
}
