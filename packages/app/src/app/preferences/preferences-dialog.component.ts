import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { DEFAULT_THRESHOLDS, partialThresholds } from '@nettle-patch/core';
import { preferencesSchema, type Preferences } from '../../store/preferences';
import { PreferencesService } from '../services/preferences.service';
import { RecordingService } from '../services/recording.service';
import { schemaValidator } from '../shared/schema-validator';

type ThresholdName = keyof typeof DEFAULT_THRESHOLDS;

const THRESHOLDS: readonly { readonly name: ThresholdName; readonly words: string; readonly unit: string }[] =
  [
    { name: 'responseMs', words: 'A response is slow from', unit: 'ms' },
    { name: 'outcomeMs', words: 'An outcome is slow from', unit: 'ms' },
    { name: 'longTaskMs', words: 'A task is long from', unit: 'ms' },
    { name: 'hangMs', words: 'It is a hang from', unit: 'ms' },
    { name: 'missedFrames', words: 'Late frames count from', unit: 'missed frames in a row of them' },
    { name: 'forcedTimes', words: 'Forced layout counts from', unit: 'times at one place in a task' },
    { name: 'forcedMs', words: 'and a cost of', unit: 'ms' },
    { name: 'idleMsASecond', words: 'Idle work counts from', unit: 'ms of every second' },
    { name: 'creepMsASecond', words: 'A cost creeps if it grows by', unit: 'ms of every second' },
    { name: 'callsATask', words: 'A function is called too often from', unit: 'calls in a task' },
  ];

const linesOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** Whether a recording is read in another way than before: the theme and the editor make no difference to it. */
function isReadOtherwise(before: Preferences, after: Preferences): boolean {
  const read = ({ thresholds, ownPaths, libraryPaths }: Preferences) =>
    JSON.stringify([Object.entries(thresholds).sort(), ownPaths, libraryPaths]);
  return read(before) !== read(after);
}

/** Checks a text of patterns, one a line, by the schema of a list of them. */
const patternsValidator = (name: 'ownPaths' | 'libraryPaths') =>
  schemaValidator(preferencesSchema, name, (text) => linesOf(String(text)));

/** A field for a threshold: a number, or nothing. */
const thresholdField = (name: ThresholdName, value: number | undefined) =>
  new FormControl(value ?? null, {
    validators: schemaValidator(partialThresholds, name, (typed) => typed ?? undefined),
  });

/** What a person can set: theme, keys, editor, whose code is whose, thresholds. What is wrong is said at its field. */
@Component({
  selector: 'np-preferences-dialog',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSlideToggleModule,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './preferences-dialog.component.html',
  styleUrl: './preferences-dialog.component.scss',
})
export class PreferencesDialogComponent {
  readonly #dialog = inject<MatDialogRef<PreferencesDialogComponent>>(MatDialogRef);
  readonly #service = inject(PreferencesService);
  readonly #recordings = inject(RecordingService);
  readonly #kept = this.#service.now();
  protected readonly thresholds = THRESHOLDS.map((one) => ({ ...one, usual: DEFAULT_THRESHOLDS[one.name] }));
  protected readonly problem = signal('');
  protected readonly form = new FormGroup({
    theme: new FormControl(this.#kept.theme, { nonNullable: true }),
    letterKeys: new FormControl(this.#kept.letterKeys, { nonNullable: true }),
    editorTemplate: new FormControl(this.#kept.editorTemplate, {
      nonNullable: true,
      validators: schemaValidator(preferencesSchema, 'editorTemplate'),
    }),
    ownPaths: new FormControl(this.#kept.ownPaths.join('\n'), {
      nonNullable: true,
      validators: patternsValidator('ownPaths'),
    }),
    libraryPaths: new FormControl(this.#kept.libraryPaths.join('\n'), {
      nonNullable: true,
      validators: patternsValidator('libraryPaths'),
    }),
    thresholds: new FormGroup(
      Object.fromEntries(
        THRESHOLDS.map(({ name }) => [name, thresholdField(name, this.#kept.thresholds[name])]),
      ),
    ),
    saveTexts: new FormControl(this.#kept.saveTexts, { nonNullable: true }),
  });

  protected async save(): Promise<void> {
    this.form.markAllAsTouched();
    if (this.form.invalid) return;
    const { ownPaths, libraryPaths, thresholds, ...rest } = this.form.getRawValue();
    const given = Object.entries(thresholds).filter(([, value]) => value !== null);
    try {
      await this.#service.change({
        ...rest,
        ownPaths: linesOf(ownPaths),
        libraryPaths: linesOf(libraryPaths),
        thresholds: Object.fromEntries(given) as Preferences['thresholds'],
      });
    } catch (error) {
      this.problem.set((error as Error).message);
      return;
    }
    this.#dialog.close();
    if (isReadOtherwise(this.#kept, this.#service.now())) void this.#recordings.openReplay();
  }
}
