import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import {
  MAX_SEVERAL,
  UNIT_WORDS,
  durationText,
  perUnitWords,
  severalTestWords,
  spreadWords,
  standingWords,
  type SeveralSeries,
} from '@nettle-patch/core';
import { SeveralService } from '../services/several.service';
import { ReportMenuComponent } from '../reports/report-menu.component';
import { ReportService } from '../reports/report.service';
import type { ReportForm } from '../../workers/analysis/report-form';
import { formatDate } from '../shared/format';
import { spreadOf } from './spread';

/** Three recordings or more: each thing that was done, by recordings. */
@Component({
  selector: 'np-several',
  imports: [RouterLink, MatButtonModule, MatCheckboxModule, MatProgressBarModule, ReportMenuComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './several.component.html',
  styleUrl: './several.component.scss',
})
export class SeveralComponent {
  readonly #service = inject(SeveralService);
  readonly #reports = inject(ReportService);
  /** Ids of the recordings with commas between them, from the address. */
  readonly recordings = input<string>();

  protected readonly state = this.#service.state;
  protected readonly date = formatDate;
  protected readonly duration = durationText;
  protected readonly spreadWords = spreadWords;
  protected readonly standing = standingWords;
  protected readonly cost = perUnitWords;
  protected readonly units = UNIT_WORDS;
  protected readonly ids = computed(() =>
    [...new Set((this.recordings() ?? '').split(','))].filter((id) => id !== '').slice(0, MAX_SEVERAL),
  );
  protected readonly compared = this.#service.compared;
  protected readonly share = this.#service.share;
  protected readonly failure = this.#service.failure;
  protected readonly tested = computed(() => {
    const compared = this.compared();
    return compared === undefined ? '' : severalTestWords(compared);
  });
  /** The longest of all attempts that somebody waited for, and of the others: each has one axis. Milliseconds. */
  readonly #most = computed(() => {
    const longest = (isInteraction: boolean) =>
      (this.compared()?.series ?? [])
        .filter((one) => one.isInteraction === isInteraction)
        .flatMap(({ sides }) => sides.map(({ worstMs }) => worstMs ?? 0))
        .reduce((most, ms) => Math.max(most, ms), 1);
    return { delayMs: longest(true), otherMs: longest(false) };
  });
  /** Each series with where its values lie on the axis, by recordings. */
  protected readonly rows = computed(() =>
    (this.compared()?.series ?? []).map((series) => ({
      ...series,
      spreads: series.sides.map((side) => spreadOf(side, this.#axisOf(series))),
      budgetAt: this.#budgetAt(series),
    })),
  );
  readonly #picked = signal<readonly string[]>([]);
  /** The two that open in the pair view, the older one as before. */
  protected readonly pair = computed(() => {
    const [before, after, more] = this.ids().filter((id) => this.#picked().includes(id));
    return before === undefined || after === undefined || more !== undefined ? undefined : { before, after };
  });

  constructor() {
    effect(() => {
      const ids = this.ids();
      if (ids.length < 2) this.#service.cancel();
      else void this.#service.compare(ids);
    });
    inject(DestroyRef).onDestroy(() => this.#service.cancel());
  }

  protected pick(id: string, isPicked: boolean): void {
    this.#picked.update((all) => (isPicked ? [...all, id] : all.filter((one) => one !== id)));
  }

  protected cancel(): void {
    this.#service.cancel();
  }

  protected report(form: ReportForm): void {
    void this.#reports.hand(form, this.#service.report(form), `${this.ids().length} recordings`);
  }

  #axisOf({ isInteraction }: SeveralSeries): number {
    return isInteraction ? this.#most().delayMs : this.#most().otherMs;
  }

  #budgetAt(series: SeveralSeries): number | undefined {
    const share = (100 * (this.compared()?.budgetMs ?? 0)) / this.#axisOf(series);
    return series.isInteraction && share < 100 ? share : undefined;
  }
}
