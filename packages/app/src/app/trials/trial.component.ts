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
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import {
  MAX_ALTERNATIVES,
  MIN_ALTERNATIVES,
  countedText,
  trialMarkdown,
  trialPage,
  trialPicture,
  trialText,
  type Alternative,
  type Trial,
  type TrialRun,
} from '@nettle-patch/core';
import { Subject, debounceTime, of } from 'rxjs';
import type { ReportForm } from '../../workers/analysis/report-form';
import type { StoredTrial } from '../../store/database';
import { ReportMenuComponent } from '../reports/report-menu.component';
import { ReportService, fileNameOf } from '../reports/report.service';
import { AppsService } from '../services/apps.service';
import { ReplayService } from '../services/replay.service';
import { TrialShelfService } from '../services/trial-shelf.service';
import { TrialsService } from '../services/trials.service';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { IconComponent } from '../shared/icon.component';
import { saveBlob } from '../shared/save-blob';
import { CodeEditorComponent } from './code-editor.component';
import { TrialOutcomeComponent } from './trial-outcome.component';

/** What is typed is kept after so long a pause. Milliseconds. */
const PAUSE_MS = 500;
const HERE = 'this browser';
const SECONDS = [10, 30, 60, 180] as const;
const NO_APP = '';

const FORMS: Readonly<Record<ReportForm, (trial: Trial, runs: readonly TrialRun[]) => string>> = {
  markdown: trialMarkdown,
  picture: trialPicture,
  page: trialPage,
};

/** Alternatives for a piece of code: written, run against each other, and what came of it. */
@Component({
  selector: 'np-trial',
  imports: [
    MatButtonModule,
    MatMenuModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    RouterLink,
    ChoiceComponent,
    CodeEditorComponent,
    IconComponent,
    ReportMenuComponent,
    TrialOutcomeComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trial.component.html',
  styleUrl: './trial.component.scss',
})
export class TrialComponent {
  readonly #shelf = inject(TrialShelfService);
  readonly #service = inject(TrialsService);
  readonly #replays = inject(ReplayService);
  readonly #apps = inject(AppsService);
  readonly #reports = inject(ReportService);
  readonly #router = inject(Router);
  readonly id = input.required<string>();

  /** What is shown; undefined until it has been read, null where it is not kept. */
  protected readonly kept = signal<StoredTrial | null | undefined>(undefined);
  readonly #changes = new Subject<void>();
  /** Whether something was changed that is not kept yet. */
  #isChanged = false;
  protected readonly most = MAX_ALTERNATIVES;
  protected readonly least = MIN_ALTERNATIVES;
  protected readonly places: readonly ChoiceOption<Trial['place']>[] = [
    { value: 'worker', words: 'in a worker' },
    { value: 'page', words: 'in a page' },
  ];
  protected readonly lengths = SECONDS.map((value) => ({
    value: value as number,
    words: `${value} s at most`,
  }));
  protected readonly where = signal<string>(HERE);
  protected readonly seconds = signal<number>(60);
  protected readonly wheres = computed((): readonly ChoiceOption<string>[] => [
    { value: HERE, words: HERE },
    ...this.#replays
      .browsers()
      .filter(({ missing }) => missing === null)
      .map(({ name }) => ({ value: name, words: `${name}, beside it` })),
  ]);
  protected readonly apps = computed((): readonly ChoiceOption<string>[] => [
    { value: NO_APP, words: 'no app' },
    ...[...new Set([...this.#apps.served().map(({ target }) => target), ...this.#namedApp()])].map(
      (value) => ({
        value,
        words: value.replace(/^https?:\/\//, ''),
      }),
    ),
  ]);
  protected readonly state = this.#service.state;
  protected readonly isRunning = computed(() => this.state().state === 'running');
  protected readonly isStopping = signal(false);
  protected readonly failure = computed(() => {
    const state = this.state();
    return state.state === 'failed' && state.trialId === this.id() ? state.words : undefined;
  });
  /** What is known while it runs. */
  protected readonly soFar = computed((): TrialRun | undefined => {
    const state = this.state();
    if (state.state !== 'running' || state.trialId !== this.id() || state.soFar === undefined)
      return undefined;
    return { where: this.where(), result: state.soFar };
  });
  protected readonly progress = computed(() => {
    const starts = this.soFar()?.result.starts ?? 0;
    return starts === 0 ? 'Checking what each gives…' : `${countedText(starts, 'start')} done…`;
  });
  /** The newest first. */
  protected readonly runs = computed(() => [...(this.kept()?.runs ?? [])].reverse());

  constructor() {
    void this.#replays.lookForBrowsers();
    effect(() => void this.#read(this.id()));
    this.#changes.pipe(debounceTime(PAUSE_MS), takeUntilDestroyed()).subscribe(() => void this.#keep());
    inject(DestroyRef).onDestroy(() => {
      this.#service.stop();
      this.#service.reset();
      if (this.#isChanged) void this.#keep();
    });
  }

  protected change(part: Partial<Trial>): void {
    const kept = this.kept();
    if (kept === undefined || kept === null) return;
    this.kept.set({ ...kept, trial: { ...kept.trial, ...part } });
    this.#isChanged = true;
    this.#changes.next();
  }

  protected changeAlternative(at: number, part: Partial<Alternative>): void {
    const alternatives = this.kept()!.trial.alternatives.map((one, index) =>
      index === at ? { ...one, ...part } : one,
    );
    this.change({ alternatives });
  }

  protected add(): void {
    const { alternatives } = this.kept()!.trial;
    const last = alternatives.at(-1)!;
    const name = `Alternative ${alternatives.length + 1}`;
    this.change({ alternatives: [...alternatives, { ...last, name }] });
  }

  protected remove(at: number): void {
    this.change({ alternatives: this.kept()!.trial.alternatives.filter((_, index) => index !== at) });
  }

  protected async run(): Promise<void> {
    const { trial } = this.kept()!;
    const where = this.where();
    this.isStopping.set(false);
    const result = await this.#service.run({
      trialId: this.id(),
      trial,
      browser: where === HERE ? undefined : where,
      seconds: this.seconds(),
    });
    const kept = this.kept();
    if (result === undefined || kept === undefined || kept === null) return;
    const others = kept.runs.filter((one) => one.where !== where);
    this.kept.set({ ...kept, runs: [...others, { where, result }] });
    await this.#keep();
  }

  protected stop(): void {
    this.isStopping.set(true);
    this.#service.stop();
  }

  protected save(): void {
    const { trial } = this.kept()!;
    const blob = new Blob([trialText(trial)], { type: 'application/json' });
    saveBlob(blob, `${fileNameOf(trial.name)}.trial.json`);
  }

  protected async delete(): Promise<void> {
    const id = this.id();
    this.kept.set(null);
    await this.#shelf.remove(id);
    await this.#router.navigate(['/trials']);
  }

  protected report(form: ReportForm): void {
    const { trial, runs } = this.kept()!;
    void this.#reports.hand(form, of(FORMS[form](trial, runs)), trial.name);
  }

  async #read(id: string): Promise<void> {
    this.kept.set((await this.#shelf.get(id)) ?? null);
  }

  async #keep(): Promise<void> {
    const kept = this.kept();
    this.#isChanged = false;
    if (kept !== undefined && kept !== null) await this.#shelf.keep(kept.id, kept.trial, kept.runs);
  }

  #namedApp(): readonly string[] {
    const app = this.kept()?.trial.app;
    return app === undefined ? [] : [app];
  }
}
