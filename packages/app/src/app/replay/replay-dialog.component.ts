import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import {
  BadStepsError,
  MAX_ROUNDS,
  SLOWINGS,
  captureModeOf,
  durationText,
  lacksTexts,
  plannedMs,
  readSteps,
  writeSteps,
  type CaptureMode,
  type Header,
  type ServedApp,
  type Step,
} from '@nettle-patch/core';
import { filter } from 'rxjs';
import { number, object } from 'yup';
import { AppsService } from '../services/apps.service';
import { ReplayService } from '../services/replay.service';
import { VersusService } from '../services/versus.service';
import { FilesService } from '../services/files.service';
import { CompareService } from '../services/compare.service';
import { AppChoiceComponent } from '../record/app-choice.component';
import { VersusOutcomeComponent } from './versus-outcome.component';
import { StepListComponent } from './step-list.component';
import { IconComponent } from '../shared/icon.component';
import { readKind } from '../shared/read-kind';
import { saveBlob } from '../shared/save-blob';
import { schemaValidator } from '../shared/schema-validator';

/** What the dialog begins with. */
export interface ReplayData {
  readonly steps: readonly Step[];
  /** The recording they come from; undefined where they come from a file. */
  readonly from?: { readonly id: string; readonly title: string; readonly header: Header };
}

const TIMES = [1, 5, 10] as const;
const TIMES_SCHEMA = object({ times: number().integer().min(1).max(MAX_ROUNDS).required() });

/** The path of a page's address, as its own server knows it. */
function pathOf(url: string | undefined): string {
  return url !== undefined && URL.canParse(url) ? new URL(url).pathname : '/';
}

/** The app that a page was of, or the first. */
function appOf(apps: readonly ServedApp[], url: string | undefined): string | undefined {
  const origin = url !== undefined && URL.canParse(url) ? new URL(url).origin : undefined;
  const own = apps.find((app) => new URL(app.url).origin === origin) ?? apps[0];
  return own?.target;
}

/** Shows steps, has them changed and saved, and has them done again in a browser of the tool's own. */
@Component({
  selector: 'np-replay-dialog',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    ReactiveFormsModule,
    AppChoiceComponent,
    IconComponent,
    StepListComponent,
    VersusOutcomeComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './replay-dialog.component.html',
  styleUrl: './replay-dialog.component.scss',
})
export class ReplayDialogComponent {
  protected readonly data = inject<ReplayData>(MAT_DIALOG_DATA);
  readonly #dialog = inject<MatDialogRef<ReplayDialogComponent>>(MatDialogRef);
  readonly #compare = inject(CompareService);
  readonly #files = inject(FilesService);
  protected readonly replay = inject(ReplayService);
  protected readonly steps = signal(this.data.steps);
  /** Whether the steps are shown as the text of a file. */
  protected readonly editing = signal(false);
  /** The text; what is wrong with it is its error `refused`. */
  protected readonly written = new FormControl('', { nonNullable: true });
  protected readonly otherTimes = new FormControl(10, {
    nonNullable: true,
    validators: schemaValidator(TIMES_SCHEMA, 'times'),
  });
  /** How often, as it last made sense. */
  protected readonly times = toSignal(
    this.otherTimes.valueChanges.pipe(filter(() => this.otherTimes.valid)),
    { initialValue: this.otherTimes.value },
  );
  protected readonly browser = signal('chromium');
  protected readonly apps = inject(AppsService);
  /** Origin of the server of the app that the steps are taken in. */
  protected readonly app = linkedSignal(() => appOf(this.apps.served(), this.data.from?.header.target.url));
  protected readonly path = signal(pathOf(this.data.from?.header.target.url));
  protected readonly slowings = SLOWINGS;
  protected readonly slow = signal(1);
  protected readonly freshLoads = signal(true);
  /** Address of another version that it is to be held against; empty for none. */
  protected readonly against = signal('');
  protected readonly versus = inject(VersusService);
  protected readonly loading = computed(() => {
    const state = this.versus.state();
    return state.state === 'running' ? state : undefined;
  });
  protected readonly outcome = computed(() => {
    const state = this.versus.state();
    return state.state === 'done' ? state.outcome : undefined;
  });
  protected readonly duration = durationText;
  protected readonly mode = signal<CaptureMode>(
    this.data.from === undefined ? 'everyday' : captureModeOf(this.data.from.header),
  );
  protected readonly choices = TIMES;
  protected readonly mostRounds = MAX_ROUNDS;
  /** How long it will take, as far as that can be told. */
  protected readonly lasts = computed(() => {
    const roundMs = plannedMs(this.steps());
    const all = this.times() > 1 ? `, ${durationText(roundMs * this.times())} in all` : '';
    return `At least ${durationText(roundMs)} a round${all}; what the page takes to answer comes on top.`;
  });
  protected readonly standIns = computed(() => lacksTexts(this.steps()));
  protected readonly missing = computed(
    () => this.replay.browsers().find(({ name }) => name === this.browser())?.missing ?? undefined,
  );
  protected readonly running = computed(() => {
    const state = this.replay.state();
    return state.state === 'running' ? state : undefined;
  });
  protected readonly failure = computed(() => {
    const states = [this.replay.state(), this.versus.state()];
    return states.find((state) => state.state === 'failed')?.words;
  });

  constructor() {
    this.replay.reset();
    this.versus.reset();
    void this.replay.lookForBrowsers();
  }

  protected edit(): void {
    this.#show(writeSteps(this.steps()));
  }

  /** Takes the steps as they were written; what is wrong with them is said at the text. */
  protected take(text: string): void {
    try {
      this.steps.set(readSteps(text));
      this.editing.set(false);
    } catch (error) {
      if (!(error instanceof BadStepsError)) throw error;
      this.#show(text);
      this.written.setErrors({ refused: error.message });
      this.written.markAsTouched();
    }
  }

  protected async open(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (file === undefined) return;
    const { kind, text } = await readKind(file);
    if (kind === 'steps') {
      this.take(text);
      return;
    }
    this.#dialog.close();
    await this.#files.open([file]);
  }

  protected save(): void {
    saveBlob(new Blob([writeSteps(this.steps())], { type: 'application/json' }), 'steps.json');
  }

  #show(text: string): void {
    this.written.setValue(text);
    this.editing.set(true);
  }

  protected leave(): void {
    this.#dialog.close();
  }

  protected async run(): Promise<void> {
    const { from } = this.data;
    const how = {
      steps: this.steps(),
      browser: this.browser(),
      path: this.path(),
      ...(this.app() === undefined ? {} : { app: this.app()! }),
      mode: this.mode(),
      ...(this.slow() > 1 ? { slow: this.slow() } : {}),
    };
    const against = this.against().trim();
    this.replay.reset();
    this.versus.reset();
    if (against !== '') {
      const title = from?.title.slice(0, 200);
      return this.versus.run({
        ...how,
        rounds: this.times(),
        against,
        ...(title === undefined ? {} : { title }),
      });
    }
    const done = await this.replay.run({
      ...how,
      times: this.times(),
      freshLoads: this.freshLoads(),
      title: `${from?.title ?? 'Steps of a file'}, ${this.times()} ×`.slice(0, 200),
    });
    if (!done) return;
    if (from?.header.replay !== undefined) this.#compare.rememberBefore(from.id);
    this.#dialog.close();
  }
}
