import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { LookCloserComponent } from '../record/look-closer.component';
import type { FunctionDetails } from '../../workers/analysis/queries/call-queries';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { formatWeight } from '../shared/format';
import { incrementalRender } from '../shared/incremental-render';
import { BarsComponent, type Bars } from './bars.component';
import { secondsText, numberText, countText, countedText } from '@nettle-patch/core';

/** One function: how often it ran, how long, when, who called it and what it called. */
@Component({
  selector: 'np-function-details',
  imports: [MatButtonModule, RouterLink, BarsComponent, LookCloserComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './function-details.component.html',
  styleUrl: './function-details.component.scss',
})
export class FunctionDetailsComponent {
  readonly details = input.required<FunctionDetails>();
  readonly recordingId = input.required<string>();
  /** The functions in focus. */
  readonly focus = input<readonly number[]>([]);
  readonly focusOn = output<readonly number[]>();
  readonly choose = output<number>();

  protected readonly inFocus = computed(() => this.focus().includes(this.details().functionId));
  protected readonly built = incrementalRender(2);
  readonly #slower = inject(LensService).slower;
  readonly #unit = inject(RecordingService).unit;

  /** A length, as the lens has it. */
  protected ms(recordedMs: number): string {
    const slower = this.#slower();
    const unit = this.#unit();
    return slower === 1 ? formatWeight(recordedMs, unit) : `≈ ${formatWeight(recordedMs * slower, unit)}`;
  }

  protected readonly summary = computed(() => {
    const { statistics, exact } = this.details();
    if (statistics === undefined) return 'It did not run under this lens.';
    const { count, totalMs, medianMs, longestMs } = statistics;
    const times = exact
      ? countedText(count, 'call')
      : `seen by samples in ${countText(count)} ${count === 1 ? 'stretch' : 'stretches'}`;
    return `${times}, ${this.ms(totalMs)} in all; median ${this.ms(medianMs)}, longest ${this.ms(longestMs)}.`;
  });

  protected readonly histogram = computed<Bars>(() => {
    const { histogram, exact } = this.details();
    return {
      title: exact ? 'How long its calls took' : 'How long it was seen at a stretch',
      labels: histogram.boundsMs.map((bound) => `up to ${numberText(Number(bound.toPrecision(2)))} ms`),
      values: histogram.counts,
    };
  });

  protected readonly rate = computed<Bars>(() => {
    const { rate, exact } = this.details();
    return {
      title: exact ? 'When it was called' : 'When it was seen',
      labels: rate.counts.map((_, step) => secondsText(rate.startMs + step * rate.stepMs, 1)),
      values: rate.counts,
    };
  });
}
