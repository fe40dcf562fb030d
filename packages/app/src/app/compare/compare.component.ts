import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  DestroyRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSortHeader } from '@angular/material/sort';
import { MatTooltipModule } from '@angular/material/tooltip';
import { Router, RouterLink } from '@angular/router';
import {
  changeWords,
  durationText,
  firmnessWords,
  medianChangeMs,
  outcomeWords,
  testedWords,
  verdictWords,
  type ComparedSeries,
} from '@nettle-patch/core';
import { AddressService } from '../services/address.service';
import { CompareService } from '../services/compare.service';
import { RecordingService } from '../services/recording.service';
import { FilesService } from '../services/files.service';
import { tableOrder } from '../services/table-order';
import { TableOrderDirective } from '../services/table-order.directive';
import { IconComponent } from '../shared/icon.component';
import { sortedRows } from '../shared/sorted-rows';
import { AnatomyPairComponent } from './anatomy-pair.component';
import { ComparedFunctionsComponent } from './compared-functions.component';
import { DotPlotComponent } from './dot-plot.component';
import { FlameDifferenceComponent } from './flame-difference.component';
import { RecordingChoiceComponent } from './recording-choice.component';
import { answerTo } from '../shared/answer-to';
import { ReportMenuComponent } from '../reports/report-menu.component';
import { ReportService } from '../reports/report.service';
import type { ReportForm } from '../../workers/analysis/report-form';

const COLUMNS = {
  label: ({ label }: ComparedSeries) => label,
  change: (series: ComparedSeries) => Math.abs(medianChangeMs(series)),
  verdict: ({ verdict }: ComparedSeries) => verdictWords(verdict),
};

/** Two recordings side by side: whether it became faster, and by which code. */
@Component({
  selector: 'np-compare',
  imports: [
    RouterLink,
    MatButtonModule,
    MatButtonToggleModule,
    MatProgressBarModule,
    MatSortHeader,
    MatTooltipModule,
    IconComponent,
    AnatomyPairComponent,
    ComparedFunctionsComponent,
    DotPlotComponent,
    FlameDifferenceComponent,
    RecordingChoiceComponent,
    ReportMenuComponent,
    TableOrderDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './compare.component.html',
  styleUrl: './compare.component.scss',
})
export class CompareComponent {
  readonly #service = inject(CompareService);
  readonly #router = inject(Router);
  readonly #address = inject(AddressService);
  readonly #reports = inject(ReportService);
  protected readonly recordings = inject(RecordingService);
  protected readonly files = inject(FilesService);
  /** Ids of the recordings, from the address. */
  readonly before = input<string>();
  readonly after = input<string>();
  /** How code is shown, and which series is taken apart, from the address. */
  readonly show = input<string>();
  readonly what = input<string>();

  protected readonly verdict = verdictWords;
  protected readonly change = changeWords;
  protected readonly state = this.#service.state;
  protected readonly compared = this.#service.compared;
  protected readonly share = this.#service.share;
  protected readonly failure = this.#service.failure;
  protected readonly outcome = computed(() => outcomeWords(this.compared()?.series ?? []));
  protected readonly tested = computed(() => {
    const compared = this.compared();
    return compared === undefined ? '' : [testedWords(compared), ...compared.caveats].join(' ');
  });
  /** The longest attempts: delays share one axis, and so does what is no delay. Milliseconds. */
  protected readonly most = computed(() => {
    const series = this.compared()?.series ?? [];
    const longest = (some: readonly ComparedSeries[]) =>
      some.reduce((most, { before, after }) => Math.max(most, before.worstMs ?? 0, after.worstMs ?? 0), 1);
    return {
      delayMs: longest(series.filter(({ isInteraction }) => isInteraction)),
      otherMs: longest(series.filter(({ isInteraction }) => !isInteraction)),
    };
  });
  /** As they come, those that were tested first, until a column is chosen. */
  protected readonly order = tableOrder('series', { active: '', direction: 'desc' });
  protected readonly sort = this.order.sort;
  protected readonly series = computed(() => sortedRows(this.compared()?.series ?? [], COLUMNS, this.sort()));
  protected readonly duration = durationText;
  protected readonly shown = computed(() => (this.show() === 'flame' ? 'flame' : 'functions'));
  /** The series that is taken apart: at first the largest change. */
  protected readonly chosen = computed(() => {
    const series = this.compared()?.series ?? [];
    return series.find(({ label }) => label === this.what())?.label ?? series[0]?.label;
  });
  protected readonly pair = answerTo(
    computed(() => {
      const [compared, label] = [this.compared(), this.chosen()];
      return compared === undefined || label === undefined ? undefined : { compared, label };
    }),
    ({ label }) => this.#service.ask('anatomies', label),
  );

  constructor() {
    effect(() => {
      const [before, after] = [this.before(), this.after()];
      if (before === undefined || after === undefined) this.#service.cancel();
      else void this.#service.compare(before, after);
      if (after !== undefined) this.#service.rememberBefore(undefined);
    });
    inject(DestroyRef).onDestroy(() => this.#service.cancel());
  }

  /** Goes to the comparison of two recordings. */
  protected go(before: string | undefined, after: string | undefined): void {
    void this.#router.navigate(['/compare'], {
      queryParams: { before: before || null, after: after || null },
    });
  }

  protected choose(label: string): void {
    void this.#address.change({ what: label }, true);
  }

  protected setShown(show: string): void {
    void this.#address.change({ show: show === 'flame' ? show : null }, true);
  }

  /** How firm a verdict is, in one sentence. */
  protected firmness(series: ComparedSeries): string {
    return firmnessWords(series, this.compared()?.tested ?? 0);
  }

  /** Hands the comparison on. */
  protected report(form: ReportForm): void {
    const { title } = this.compared()!.after.header;
    void this.#reports.hand(
      form,
      this.#service.ask('proof', form),
      `${title || 'recording'} before and after`,
    );
  }
}
