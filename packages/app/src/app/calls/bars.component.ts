import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterNextRender,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { ThemeService } from '../services/theme.service';
import { inOwnTask } from '../shared/own-task';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** Numbers side by side. */
export interface Bars {
  readonly title: string;
  readonly labels: readonly string[];
  readonly values: readonly number[];
}

/** A small bar chart, with its numbers as a table for those who cannot see it. */
@Component({
  selector: 'np-bars',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>{{ bars().title }}</h3>
    <div class="chart"><canvas #canvas role="img" [attr.aria-label]="bars().title"></canvas></div>
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
      font-size: 12px;
      color: var(--soft);
      margin: 10px 0 2px;
    }
    .chart {
      position: relative;
      height: 74px;
    }
  `,
})
export class BarsComponent {
  readonly bars = input.required<Bars>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly #palette = inject(ThemeService).palette;
  #chart: Chart<'bar'> | undefined;

  readonly #destroyed = inject(DestroyRef);

  constructor() {
    afterNextRender(() => this.#drawSoon());
    effect(() => {
      this.bars();
      this.#palette();
      if (this.#chart !== undefined) this.#draw();
    });
    this.#destroyed.onDestroy(() => this.#chart?.destroy());
  }

  #drawSoon(): void {
    inOwnTask(() => {
      if (!this.#destroyed.destroyed) this.#draw();
    });
  }

  #draw(): void {
    const { labels, values } = this.bars();
    const palette = this.#palette();
    const data = {
      labels: [...labels],
      datasets: [
        { data: [...values], backgroundColor: palette.scriptOwn, barPercentage: 1, categoryPercentage: 0.92 },
      ],
    };
    if (this.#chart !== undefined) {
      this.#chart.data = data;
      this.#chart.update('none');
      return;
    }
    this.#chart = new Chart(this.canvas().nativeElement, {
      type: 'bar',
      data: { labels: [], datasets: [] },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        scales: {
          x: {
            grid: { display: false },
            ticks: { maxTicksLimit: 3, maxRotation: 0, color: palette.soft, font: { size: 10 } },
          },
          y: {
            beginAtZero: true,
            ticks: { maxTicksLimit: 3, precision: 0, color: palette.soft, font: { size: 10 } },
          },
        },
      },
    });
    this.#drawSoon();
  }
}
