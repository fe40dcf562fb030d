import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { MatButtonModule } from '@angular/material/button';
import { MatSortHeader } from '@angular/material/sort';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import { decimalText, msText, countText, shortPlace } from '@nettle-patch/core';
import { AddressService } from '../services/address.service';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { PreferencesService } from '../services/preferences.service';
import { RecordingService } from '../services/recording.service';
import { TrialShelfService } from '../services/trial-shelf.service';
import { tableOrder } from '../services/table-order';
import { TableOrderDirective } from '../services/table-order.directive';
import { ShellKeys } from '../shell/shell-keys';
import type { ShownFile, ShownLine } from '../../workers/analysis/queries/source-queries';
import { incrementalList } from '../shared/incremental-list';
import { sortedRows } from '../shared/sorted-rows';
import { IconComponent } from '../shared/icon.component';
import { PaneDividerComponent } from '../panes/pane-divider.component';
import { PanesDirective } from '../panes/panes.directive';
import { OpeningComponent } from '../shell/opening.component';
import { CodeViewComponent } from './code-view.component';
import { costColumns } from './cost-gutters';
import { editorLink } from './editor-link';
import { LineDetailComponent } from './line-detail.component';
import { trialOfFunction } from './trial-of-function';
import { answerTo } from '../shared/answer-to';

const LINE_COLUMNS = {
  line: ({ line }: ShownLine) => line,
  selfMs: ({ selfMs }: ShownLine) => selfMs,
  totalMs: ({ totalMs }: ShownLine) => totalMs,
  names: ({ names }: ShownLine) => names.join(', '),
};

const TOLD_MS = 5000;

/** So many of a list are shown, unless all are asked for: they are in order of their cost. */
const FIRST = 40;

function firstOf<T>(list: readonly T[], all: boolean): readonly T[] {
  return all ? list : list.slice(0, FIRST);
}

function countIfLeftOut(list: readonly unknown[], all: boolean): number {
  return all || list.length <= FIRST ? 0 : list.length;
}

/** The source of what ran, with its cost beside the lines. */
@Component({
  selector: 'np-source',
  imports: [
    MatButtonModule,
    MatSortHeader,
    RouterLink,
    CodeViewComponent,
    IconComponent,
    LineDetailComponent,
    OpeningComponent,
    PaneDividerComponent,
    PanesDirective,
    TableOrderDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './source.component.html',
  styleUrl: './source.component.scss',
})
export class SourceComponent {
  readonly #recordings = inject(RecordingService);
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService).core;
  readonly #chosen = inject(ChosenFunctionService);
  readonly #preferences = inject(PreferencesService).now;
  readonly #sanitizer = inject(DomSanitizer);
  readonly #snackBar = inject(MatSnackBar);
  readonly #router = inject(Router);
  readonly #trials = inject(TrialShelfService);
  protected readonly sheets = inject(ShellKeys);
  readonly id = input.required<string>();
  /** File that is shown, from the address. */
  readonly file = input<string>();
  /** Line that is shown, from the address. */
  readonly line = input<string>();

  protected readonly opened = this.#recordings.openedAs(this.id);
  /** How often the person has given a text: what is known of files is asked for anew then. */
  readonly #supplied = signal(0);
  readonly #asked = computed(() => {
    this.#supplied();
    return this.opened() === undefined ? undefined : { lens: this.#lens() };
  });
  protected readonly files = answerTo(this.#asked, ({ lens }) => this.#recordings.ask('files', lens));
  readonly #location = answerTo(
    computed(() => {
      const functionId = this.#chosen.functionId();
      return this.opened() !== undefined && functionId !== undefined ? { functionId } : undefined;
    }),
    ({ functionId }) => this.#recordings.ask('fileLocation', functionId),
  );
  protected readonly short = shortPlace;
  protected readonly ms = msText;
  protected readonly lineMs = (ms: number) => decimalText(ms, 2);
  protected readonly countText = countText;

  /** The file to show: the one asked for, that of the function asked for, or the dearest of the own ones. */
  protected readonly wanted = computed(() => {
    const files = this.files();
    const asked = this.file() ?? this.#location()?.file;
    if (files === undefined || asked !== undefined) return asked;
    return (files.find(({ owner, hasText }) => owner === 'own' && hasText) ?? files[0])?.file;
  });
  protected readonly shown = answerTo(
    computed(() => {
      const [asked, file] = [this.#asked(), this.wanted()];
      return asked === undefined || file === undefined ? undefined : { ...asked, file };
    }),
    ({ lens, file }) => this.#recordings.ask('file', lens, file),
  );
  /** The line the cursor was put on, in the file that is shown. */
  readonly #cursor = linkedSignal<string | undefined, number | undefined>({
    source: () => this.shown()?.file,
    computation: () => undefined,
  });
  protected readonly wantedLine = computed(() => {
    const line = Number(this.line() ?? Number.NaN);
    if (Number.isInteger(line) && line > 0) return line;
    const location = this.#location();
    if (location !== undefined && location.file === this.wanted()) return location.line;
    const lines = this.shown()?.lines ?? [];
    return lines.reduce((best, one) => (one.selfMs > (best?.selfMs ?? 0) ? one : best), lines[0])?.line;
  });
  /** The line that is told of: that of the cursor, which is put on the line that is shown. */
  protected readonly cursorLine = computed(() => this.#cursor() ?? this.wantedLine() ?? 1);
  protected readonly columns = computed(() => costColumns(this.shown()?.lines ?? []));
  protected readonly functions = computed(() =>
    [...(this.shown()?.functions ?? [])].sort((a, b) => b.selfMs - a.selfMs),
  );
  readonly #allFiles = signal(false);
  readonly #allFunctions = linkedSignal({ source: this.shown, computation: () => false });
  protected readonly listed = incrementalList(computed(() => firstOf(this.files() ?? [], this.#allFiles())));
  protected readonly listedFunctions = incrementalList(
    computed(() => firstOf(this.functions(), this.#allFunctions())),
  );
  /** How many there are, where some are left out. */
  protected readonly leftOut = computed(() => ({
    files: countIfLeftOut(this.files() ?? [], this.#allFiles()),
    functions: countIfLeftOut(this.functions(), this.#allFunctions()),
  }));
  protected readonly lineOrder = tableOrder('lines', { active: 'line', direction: 'asc' });
  protected readonly lineSort = this.lineOrder.sort;
  protected readonly listedLines = incrementalList(
    computed(() => sortedRows(this.shown()?.lines ?? [], LINE_COLUMNS, this.lineSort())),
  );
  /** Opens the line in the person's editor. Its scheme was checked when it was set, and again here. */
  protected readonly link = computed(() => {
    const file = this.shown()?.file;
    const line = this.cursorLine();
    const { editorTemplate } = this.#preferences();
    const link = file === undefined ? undefined : editorLink(editorTemplate, { file, line });
    return link === undefined ? undefined : this.#sanitizer.bypassSecurityTrustUrl(link);
  });

  constructor() {
    effect(() => void this.#recordings.openStored(this.id()));
  }

  protected showAll(what: 'files' | 'functions'): void {
    (what === 'files' ? this.#allFiles : this.#allFunctions).set(true);
  }

  protected choose(file: string): void {
    void this.#address.change({ file, line: null });
  }

  protected goTo(line: number): void {
    void this.#address.change({ line }, true);
  }

  protected cursorAt(line: number): void {
    this.#cursor.set(line);
  }

  /** Begins a trial with the function that the cursor is in. */
  protected async tryAlternatives({ file, text = '' }: ShownFile): Promise<void> {
    const line = this.cursorLine();
    const trial = trialOfFunction({ file, text, line });
    if (trial === undefined) {
      this.#snackBar.open(`There is no function at line ${line}. Put the cursor into one.`, 'Close', {
        duration: TOLD_MS,
      });
      return;
    }
    await this.#router.navigate(['/trials', await this.#trials.add(trial)]);
  }

  /** Takes the text of the file that is shown from a file of the person's. */
  protected async supply(chosen: HTMLInputElement): Promise<void> {
    const [given] = chosen.files ?? [];
    const file = this.shown()?.file;
    chosen.value = '';
    if (given === undefined || file === undefined) return;
    const text = await given.text();
    this.#recordings
      .ask('supplyText', file, text)
      .subscribe(() => this.#supplied.update((count) => count + 1));
  }
}
