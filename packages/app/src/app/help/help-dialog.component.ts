import { durationText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { answerTo } from '../shared/answer-to';
import { KEY_GROUPS } from './key-groups';

/** All keys and gestures, and what the words and figures mean. */
@Component({
  selector: 'np-help-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './help-dialog.component.html',
  styleUrl: './help-dialog.component.scss',
})
export class HelpDialogComponent {
  readonly #recordings = inject(RecordingService);
  readonly #chosen = inject(ChosenFunctionService).functionId;
  readonly #lens = inject(LensService).core;
  protected readonly groups = KEY_GROUPS;

  readonly #asked = computed(() => {
    const functionId = this.#chosen();
    const isOpen = this.#recordings.opened() !== undefined;
    return isOpen && functionId !== undefined ? { functionId, lens: this.#lens() } : undefined;
  });
  /** The selected function, as the example. */
  protected readonly example = answerTo(this.#asked, ({ lens, functionId }) =>
    this.#recordings.ask('functionDetails', lens, functionId),
  );
  protected readonly duration = durationText;
}
