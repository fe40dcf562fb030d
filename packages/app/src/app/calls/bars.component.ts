import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { barAt, type BarArea } from '../../workers/charts/bar-picture';
import { BarChartsService, type BarCanvas } from '../services/bar-charts.service';
import { ThemeService } from '../services/theme.service';
import { onResize, type CanvasSize } from '../shared/canvas';
import { scheduleTask } from '../shared/schedule-task';
import { countText } from '@nettle-patch/core';
import { FIGURE_FAMILY } from '../shared/canvas-fonts';

/** Numbers side by side. */
export interface Bars {
  readonly title: string;
  readonly labels: readonly string[];
  readonly values: readonly number[];
}

function isSame(a: CanvasSize, b: CanvasSize): boolean {
  return a.width === b.width && a.height === b.height;
}

/** A small bar chart, with its numbers as a table for those who cannot see it. */
@Component({
  selector: 'np-bars',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>
      {{ bars().title }}
      <span class="figure" aria-hidden="true">{{ pointed() }}</span>
    </h3>
    <div class="chart">
      <canvas
        #canvas
        role="img"
        [attr.aria-label]="bars().title"
        (pointermove)="x.set($event.offsetX)"
        (pointerleave)="x.set(undefined)"
      ></canvas>
    </div>
    <table class="unseen">
      <caption>
        {{
          bars().title
        }}
      </caption>
      @for (value of bars().values; track $index) {
        @if (value > 0) {
          <tr>
            <th scope="row">{{ bars().labels[$index] }}</th>
            <td>{{ value }}</td>
          </tr>
        }
      }
    </table>
  `,
  styles: `
    h3 {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      font-size: 12px;
      color: var(--soft);
      margin: 10px 0 2px;
    }
    h3 .figure {
      font-weight: 400;
      color: var(--ink);
      white-space: nowrap;
    }
    .chart {
      position: relative;
      height: 74px;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
  `,
})
export class BarsComponent {
  readonly bars = input.required<Bars>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly #destroyed = inject(DestroyRef);
  readonly #charts = inject(BarChartsService);
  readonly #palette = inject(ThemeService).palette;
  readonly #size = signal<CanvasSize>({ width: 0, height: 0 }, { equal: isSame });
  readonly #area = signal<BarArea | undefined>(undefined);
  #drawn: BarCanvas | undefined;

  /** Where the pointer is over the drawing. CSS pixels. */
  protected readonly x = signal<number | undefined>(undefined);
  /** What the bar under the pointer says. */
  protected readonly pointed = computed(() => {
    const [x, area, { labels, values }] = [this.x(), this.#area(), this.bars()];
    const at = x === undefined || area === undefined ? undefined : barAt(area, values.length, x);
    return at === undefined ? '' : `${labels[at]}: ${countText(values[at]!)}`;
  });

  constructor() {
    afterNextRender(() => scheduleTask(() => this.#begin()));
    effect(() => void this.#draw());
    this.#destroyed.onDestroy(() => this.#drawn?.giveUp());
  }

  #begin(): void {
    if (this.#destroyed.destroyed) return;
    const canvas = this.canvas().nativeElement;
    this.#drawn = this.#charts.take(canvas);
    const measure = () => this.#size.set({ width: canvas.clientWidth, height: canvas.clientHeight });
    onResize(canvas, measure, this.#destroyed);
  }

  async #draw(): Promise<void> {
    const [size, palette, { labels, values }] = [this.#size(), this.#palette(), this.bars()];
    if (size.width === 0) return;
    const picture = {
      labels,
      values,
      bar: palette.scriptOwn,
      ink: palette.soft,
      family: FIGURE_FAMILY,
      scale: devicePixelRatio,
    };
    this.#area.set(await this.#drawn?.draw({ ...picture, ...size }));
  }
}
