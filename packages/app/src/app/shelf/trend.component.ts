import { LEVEL, MIN_TREND, changePoints, durationText, levelsOf } from '@nettle-patch/core';
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
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Router, RouterLink } from '@angular/router';
import { Chart, LineController, LineElement, LinearScale, PointElement, Tooltip } from 'chart.js';
import type { StoredRecording } from '../../store/database';
import { ThemeService } from '../services/theme.service';
import { FIGURE_FAMILY } from '../shared/canvas-fonts';
import { dateAxis } from './date-ticks';
import { formatDate } from '../shared/format';
import { scheduleTask } from '../shared/schedule-task';

Chart.register(LineController, LineElement, LinearScale, PointElement, Tooltip);

type Measure = 'response' | 'long-tasks' | 'stings';

const MOST_DATES = 7;
const NEAREST = { mode: 'nearest', axis: 'x', intersect: false, includeInvisible: true } as const;

const MEASURES: readonly { readonly measure: Measure; readonly words: string }[] = [
  { measure: 'response', words: 'Slowest response' },
  { measure: 'long-tasks', words: 'Time in long tasks' },
  { measure: 'stings', words: 'Stings' },
];

function valueOf({ verdict }: StoredRecording, measure: Measure): number | undefined {
  if (measure === 'stings') return verdict?.stings;
  return measure === 'response' ? verdict?.slowestResponseMs : verdict?.longTaskMs;
}

interface TrendPoint {
  readonly recording: StoredRecording;
  readonly label: string;
  readonly value: number | undefined;
}

/** How recordings with the same tag went, one after the other in time. Each point opens its recording. */
@Component({
  selector: 'np-trend',
  imports: [MatButtonToggleModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h2>Trend of “{{ tag() }}”</h2>
      <mat-button-toggle-group
        aria-label="What is shown"
        [value]="measure()"
        (change)="measure.set($event.value)"
        hideSingleSelectionIndicator
      >
        @for (one of measures; track one.measure) {
          <mat-button-toggle [value]="one.measure">{{ one.words }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
    </div>
    <div class="chart">
      <canvas #canvas role="img" [attr.aria-label]="words()" (click)="openNear($event)"></canvas>
    </div>
    @for (change of changeWords(); track change) {
      <p class="change">{{ change }}</p>
    } @empty {
      @if (points().length >= few) {
        <p class="soft">
          No change of level that {{ points().length }} recordings could show, at an error rate of 5 %.
        </p>
      }
    }
    @if (unknown() > 0) {
      <p class="soft">{{ unknown() }} of them have not been looked at by this version: open them once.</p>
    }
    <table class="unseen">
      <caption>
        {{
          words()
        }}
      </caption>
      @for (point of points(); track point.recording.id) {
        <tr>
          <th scope="row">
            <a [routerLink]="['/stings', point.recording.id]"
              >{{ point.label }}, {{ point.recording.title }}</a
            >
          </th>
          <td>{{ shownOf(point) }}</td>
        </tr>
      }
    </table>
  `,
  styles: `
    :host {
      display: block;
      background: var(--panel);
      border: 1px solid var(--line);
      border-radius: 8px;
      padding: 12px 16px;
      margin-bottom: 16px;
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    h2 {
      font-size: 15px;
      margin: 0;
    }
    .change {
      font-weight: 700;
    }
    .chart {
      position: relative;
      height: 150px;
      margin-top: 10px;
    }
  `,
})
export class TrendComponent {
  readonly tag = input.required<string>();
  readonly recordings = input.required<readonly StoredRecording[]>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly #palette = inject(ThemeService).palette;
  readonly #router = inject(Router);
  readonly #destroyed = inject(DestroyRef);
  #chart: Chart<'line', { x: number; y: number | null }[]> | undefined;

  protected readonly measures = MEASURES;
  protected readonly measure = signal<Measure>('response');
  protected readonly points = computed((): TrendPoint[] =>
    [...this.recordings()]
      .sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1))
      .map((recording) => ({
        recording,
        label: formatDate(recording.createdAt),
        value: valueOf(recording, this.measure()),
      })),
  );
  protected readonly unknown = computed(
    () => this.points().filter(({ value }) => value === undefined).length,
  );
  protected readonly few = MIN_TREND;
  readonly #known = computed(() => this.points().filter(({ value }) => value !== undefined));
  /** From which of the known points on they lie on another level. */
  readonly #changes = computed(() =>
    changePoints(
      this.#known().map(({ value }) => value!),
      LEVEL,
    ),
  );
  protected readonly changeWords = computed(() =>
    this.#changes().map(({ at, before, after }) => {
      const { label, recording } = this.#known()[at]!;
      return `${after > before ? 'Higher' : 'Lower'} from “${recording.title}” (${label}) on: ${this.shown(after)}, before ${this.shown(before)}.`;
    }),
  );
  protected readonly words = computed(() => {
    const { words } = MEASURES.find(({ measure }) => measure === this.measure())!;
    return `${words} of the recordings tagged “${this.tag()}”, in order of time`;
  });

  constructor() {
    afterNextRender(() =>
      scheduleTask(() => {
        if (!this.#destroyed.destroyed) this.#draw();
      }),
    );
    effect(() => {
      this.points();
      this.#palette();
      if (this.#chart !== undefined) this.#draw();
    });
    this.#destroyed.onDestroy(() => this.#chart?.destroy());
  }

  /** Opens the recording whose point is nearest: also beside the area of the chart, where half of the last point stands. */
  protected openNear(event: MouseEvent): void {
    const near = this.#chart?.getElementsAtEventForMode(event, 'nearest', NEAREST, true) ?? [];
    const element = near.find(({ datasetIndex }) => datasetIndex === 0);
    const point = element === undefined ? undefined : this.points()[element.index];
    if (point !== undefined) void this.#router.navigate(['/stings', point.recording.id]);
  }

  protected shownOf({ value, recording }: TrendPoint): string {
    if (value === undefined) return 'not known';
    const isBelow = this.measure() === 'response' && recording.verdict?.slowestIsBelow === true;
    return `${isBelow ? 'below ' : ''}${this.shown(value)}`;
  }

  protected shown(value: number): string {
    return this.measure() === 'stings' ? String(value) : durationText(value);
  }

  /** A line at each level between two changes. */
  #levels(): { x: number; y: number }[][] {
    const known = this.#known();
    return levelsOf(this.#changes(), known.length).map(({ first, last, value }) =>
      [first, last].map((at) => ({ x: Date.parse(known[at]!.recording.createdAt), y: value })),
    );
  }

  #draw(): void {
    this.#chart?.destroy();
    const palette = this.#palette();
    const points = this.points();
    const font = { size: 11, family: FIGURE_FAMILY };
    const ticks = { color: palette.soft, font };
    const dates = dateAxis(MOST_DATES);
    this.#chart = new Chart(this.canvas().nativeElement, {
      type: 'line',
      data: {
        datasets: [
          {
            data: points.map(({ recording, value }) => ({
              x: Date.parse(recording.createdAt),
              y: value ?? null,
            })),
            borderColor: palette.handling,
            backgroundColor: palette.handling,
            pointRadius: 5,
            pointHitRadius: 14,
            borderWidth: 1.5,
          },
          ...this.#levels().map((data) => ({
            data,
            borderColor: palette.ink,
            borderWidth: 2,
            pointRadius: 0,
            pointHitRadius: 0,
          })),
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        interaction: NEAREST,
        plugins: {
          legend: { display: false },
          tooltip: {
            titleFont: font,
            bodyFont: font,
            filter: ({ datasetIndex }) => datasetIndex === 0,
            callbacks: {
              title: ([item]) => this.points()[item!.dataIndex]!.recording.title,
              label: ({ dataIndex }) => this.shownOf(this.points()[dataIndex]!),
            },
          },
        },
        scales: {
          x: {
            type: 'linear',
            grid: { display: false },
            ticks: { ...ticks, maxRotation: 0, callback: dates.callback },
            afterBuildTicks: dates.afterBuildTicks,
          },
          y: {
            beginAtZero: true,
            grid: { color: palette.line },
            ticks: { ...ticks, maxTicksLimit: 4, callback: (value) => this.shown(Number(value)) },
          },
        },
      },
    });
  }
}
