import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { DEFAULT_THRESHOLDS } from '@nettle-patch/core';
import type { Preferences } from '../../store/preferences';
import { PreferencesService } from '../services/preferences.service';
import { RecordingService } from '../services/recording.service';

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

/** What a person can set: theme, editor, whose code is whose, thresholds. */
@Component({
  selector: 'np-preferences-dialog',
  imports: [MatButtonModule, MatButtonToggleModule, MatCheckboxModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './preferences-dialog.component.html',
  styleUrl: './preferences-dialog.component.scss',
})
export class PreferencesDialogComponent {
  readonly #dialog = inject<MatDialogRef<PreferencesDialogComponent>>(MatDialogRef);
  readonly #service = inject(PreferencesService);
  readonly #recordings = inject(RecordingService);
  protected readonly kept = this.#service.now();
  protected readonly thresholds = THRESHOLDS.map((one) => ({
    ...one,
    usual: DEFAULT_THRESHOLDS[one.name],
    value: this.kept.thresholds[one.name],
  }));
  protected readonly theme = signal(this.kept.theme);
  protected readonly saveTexts = signal(this.kept.saveTexts);
  protected readonly problem = signal('');

  protected async save(form: HTMLFormElement): Promise<void> {
    const fields = new FormData(form);
    const textOf = (name: string) => String(fields.get(name) ?? '');
    const given = THRESHOLDS.flatMap(({ name }) =>
      textOf(name) === '' ? [] : [[name, Number(textOf(name))]],
    );
    const part: Partial<Preferences> = {
      theme: this.theme(),
      saveTexts: this.saveTexts(),
      editorTemplate: textOf('editorTemplate').trim(),
      ownPaths: linesOf(textOf('ownPaths')),
      libraryPaths: linesOf(textOf('libraryPaths')),
      thresholds: Object.fromEntries(given) as Preferences['thresholds'],
    };
    try {
      await this.#service.change(part);
    } catch (error) {
      this.problem.set((error as Error).message);
      return;
    }
    this.#dialog.close();
    if (isReadOtherwise(this.kept, this.#service.now())) void this.#recordings.openReplay();
  }
}
