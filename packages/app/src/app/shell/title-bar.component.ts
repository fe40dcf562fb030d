import { durationText, feltText, modeWordsOf } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatTooltipModule } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import { isBlind } from '../../workers/analysis/delay-coverage';
import { CompareService } from '../services/compare.service';
import { PageTitleService } from '../services/page-title.service';
import { RecordingService } from '../services/recording.service';
import { FilesService } from '../services/files.service';
import { ShelfService } from '../services/shelf.service';
import { FocusNowDirective } from '../shared/focus-now.directive';
import { IconComponent } from '../shared/icon.component';
import { ShellKeys } from './shell-keys';

/** The line above every view: what is open, what was found in it, and what can be done with it. */
@Component({
  selector: 'np-title-bar',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatTooltipModule,
    RouterLink,
    FocusNowDirective,
    IconComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './title-bar.component.html',
  styleUrl: './title-bar.component.scss',
})
export class TitleBarComponent {
  readonly #recordings = inject(RecordingService);
  readonly #files = inject(FilesService);
  readonly #shelf = inject(ShelfService);
  readonly #titles = inject(PageTitleService);
  protected readonly compare = inject(CompareService);
  /** Whether what can be done with the recording is there already. */
  readonly hasActions = input(true);
  protected readonly sheets = inject(ShellKeys);
  protected readonly editing = signal(false);
  protected readonly duration = durationText;
  protected readonly modeWords = modeWordsOf;

  protected readonly view = this.#titles.view;
  protected readonly title = this.#titles.recording;

  protected readonly opened = this.#recordings.analysed;

  /** The recording that this one was made to be held against. */
  protected readonly compareWith = computed(() => {
    const kept = this.#shelf.recordings();
    const find = (wanted: string | undefined) => kept?.find(({ id }) => id === wanted);
    const [before, now] = [find(this.compare.before()), find(this.opened()?.id)];
    if (before === undefined || now === undefined || before.createdAt >= now.createdAt) return undefined;
    return before.id;
  });

  protected readonly verdict = computed(() => {
    const stings = this.opened()?.stings ?? [];
    const worst = stings[0];
    if (worst === undefined) return undefined;
    const count = stings.length === 1 ? '1 sting' : `${stings.length} stings`;
    return { count, worst: feltText(worst) };
  });

  protected readonly blind = computed(() => isBlind(this.opened()!.header));

  protected rename(title: string): void {
    this.editing.set(false);
    const { id } = this.opened()!;
    void this.#shelf.rename(id, title);
  }

  protected save(): void {
    void this.#files.saveFile(this.opened()!.id);
  }
}
