import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { captureModeOf, delayStepMs, lengthOnSlower, type TimeRange, durationText } from '@nettle-patch/core';
import type { ListedSeries, OpenedRecording, OpenedSting } from '../../workers/analysis/analysis-results';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { incrementalRender } from '../shared/incremental-render';
import { RecordingService } from '../services/recording.service';
import { ReportMenuComponent } from '../reports/report-menu.component';
import { ReportService } from '../reports/report.service';
import type { ReportForm } from '../../workers/analysis/report-form';
import { IconComponent } from '../shared/icon.component';
import { AnatomyComponent } from './anatomy/anatomy.component';
import { BecauseComponent } from './because.component';
import { BlameComponent } from './blame.component';
import { CauseChainComponent } from './cause-chain.component';
import { ChosenBarComponent, type ChosenPart } from './chosen-bar.component';
import { CulpritsComponent } from './culprits.component';
import { ExcerptComponent } from './excerpt.component';
import { SuggestionsComponent } from './suggestions.component';

/** One sting explained: why, taken apart, and by whom. */
@Component({
  selector: 'np-sting-case',
  imports: [
    MatButtonModule,
    IconComponent,
    AnatomyComponent,
    BecauseComponent,
    BlameComponent,
    CauseChainComponent,
    ChosenBarComponent,
    CulpritsComponent,
    ExcerptComponent,
    ReportMenuComponent,
    SuggestionsComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sting-case.component.html',
  styleUrl: './sting-case.component.scss',
})
export class StingCaseComponent {
  readonly shown = input.required<OpenedSting>();
  readonly opened = input.required<OpenedRecording>();
  readonly series = input.required<readonly ListedSeries[]>();
  readonly selected = input.required<number>();
  protected readonly chosen = inject(ChosenFunctionService);
  readonly #slower = inject(LensService).slower;
  readonly #recordings = inject(RecordingService);
  readonly #reports = inject(ReportService);
  /** The delay on a slower device, where the lens asks for one. */
  protected readonly estimate = computed(() => {
    const slower = this.#slower();
    const { sting, blame } = this.shown().anatomy;
    if (slower === 1 || sting.detail !== undefined) return undefined;
    const ms = durationText(lengthOnSlower(blame.totalMs, blame.idleMs, slower));
    return `On a device ${slower} × slower about ${ms}, estimated: work takes ${slower} times as long, what is only waited for as long as here. The sentence and the drawing are as recorded.`;
  });
  /** How sure its figures are, where a person may take them for surer: the step of the delay, and how lines were sampled. */
  protected readonly limits = computed(() => {
    const { header } = this.opened();
    const stepMs = delayStepMs(this.opened());
    const isStepped = this.shown().anatomy.sting.interaction !== undefined && stepMs >= 1;
    const step = `${header.target.engine} tells delays of inputs in steps of ${stepMs} ms.`;
    const lines =
      header.isolated === true
        ? 'The page was isolated: lines were sampled from outside.'
        : 'Not isolated: lines were sampled from within, and those of loops without calls are estimated.';
    return [isStepped ? step : '', captureModeOf(header) === 'fine' ? lines : ''].join(' ').trim();
  });
  readonly choose = output<number>();
  readonly range = output<TimeRange>();

  /** The function pointed out in the sentence, the drawing and the table alike. */
  protected readonly functionId = this.chosen.functionId;

  protected readonly built = incrementalRender(2);

  /** The part of the drawing that was clicked. */
  protected readonly part = linkedSignal<OpenedSting, ChosenPart | undefined>({
    source: this.shown,
    computation: () => undefined,
  });
  protected readonly named = computed(() => {
    const functionId = this.functionId();
    return functionId === undefined ? undefined : this.shown().functions.get(functionId);
  });

  /** The repeats of what is shown, in order of time. */
  protected readonly repeats = computed(() => {
    const series = this.series().find(({ stings }) => stings.includes(this.selected()));
    const inTime = [...(series?.stings ?? [])];
    const at = inTime.indexOf(this.selected());
    return { count: inTime.length, at, previous: inTime[at - 1], next: inTime[at + 1] };
  });

  /** Hands the sting on. */
  protected report(form: ReportForm): void {
    const { label } = this.shown().anatomy.sting;
    void this.#reports.hand(form, this.#recordings.ask('stingReport', this.selected(), form), label);
  }
}
