import { durationText, bytesText, feltText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatChipsModule } from '@angular/material/chips';
import { MatExpansionModule } from '@angular/material/expansion';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { StoredRecording, Verdict } from '../../store/database';
import type { Preferences } from '../../store/preferences';
import { PreferencesService } from '../services/preferences.service';
import { RecordingService } from '../services/recording.service';
import { FilesService } from '../services/files.service';
import { ShelfService } from '../services/shelf.service';
import { TrialShelfService } from '../services/trial-shelf.service';
import { StorageService } from '../services/storage.service';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { formatDate } from '../shared/format';
import { FocusNowDirective } from '../shared/focus-now.directive';
import { IconComponent } from '../shared/icon.component';
import { OpenFilesComponent } from '../files/open-files.component';
import { ChosenRecordingsComponent } from './chosen-recordings.component';
import { CardSkylineComponent } from './card-skyline.component';
import { findRecordings, tagsOf, type Order, type Wanted } from './find-recordings';
import { TrialListComponent } from '../trials/trial-list.component';
import { TrendComponent } from './trend.component';

const ORDERS: readonly ChoiceOption<Order>[] = [
  { value: 'newest', words: 'Newest first' },
  { value: 'oldest', words: 'Oldest first' },
  { value: 'worst', words: 'Worst delay first' },
  { value: 'title', words: 'By title' },
  { value: 'largest', words: 'Largest first' },
];

/** The recordings kept in this browser: find, open, rename, tag, compare, save, delete. */
@Component({
  selector: 'np-shelf',
  imports: [
    MatButtonModule,
    MatChipsModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatProgressBarModule,
    RouterLink,
    ChoiceComponent,
    IconComponent,
    CardSkylineComponent,
    ChosenRecordingsComponent,
    MatCheckboxModule,
    MatExpansionModule,
    FocusNowDirective,
    OpenFilesComponent,
    TrendComponent,
    TrialListComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shelf.component.html',
  styleUrl: './shelf.component.scss',
})
export class ShelfComponent {
  protected readonly shelf = inject(ShelfService);
  protected readonly recordings = inject(RecordingService);
  protected readonly files = inject(FilesService);
  protected readonly trials = inject(TrialShelfService);
  protected readonly storage = inject(StorageService);
  protected readonly renaming = signal<string | undefined>(undefined);
  protected readonly tagging = signal<string | undefined>(undefined);
  readonly #preferences = inject(PreferencesService);
  /** What is looked for: it stays as it was left. */
  protected readonly wanted = computed((): Wanted => {
    const { text, tag, order } = this.#preferences.now().shelf;
    return { text, tag: tag === '' ? undefined : tag, order };
  });
  readonly #chosen = signal<ReadonlySet<string>>(new Set());
  /** Those that are chosen, as far as they are shown. */
  protected readonly chosen = computed(() => this.shown().filter(({ id }) => this.#chosen().has(id)));
  protected readonly orders = ORDERS;
  protected readonly tags = computed(() => tagsOf(this.shelf.recordings() ?? []));
  protected readonly shown = computed(() => findRecordings(this.shelf.recordings() ?? [], this.wanted()));
  /** Those with the chosen tag, where there are enough of them to be put beside each other. */
  protected readonly trend = computed(() => {
    const { tag } = this.wanted();
    if (tag === undefined) return undefined;
    const recordings = (this.shelf.recordings() ?? []).filter(({ tags }) => tags.includes(tag));
    return recordings.length < 2 ? undefined : { tag, recordings };
  });
  protected readonly bytes = bytesText;
  protected readonly date = formatDate;
  protected readonly duration = durationText;
  protected readonly worst = ({ worstMs, worstIsRate = false }: Verdict) =>
    feltText({ feltMs: worstMs, isRate: worstIsRate });

  protected addTags(recording: StoredRecording, typed: string): void {
    if (this.tagging() !== recording.id) return;
    this.tagging.set(undefined);
    void this.shelf.setTags(recording.id, [...recording.tags, ...typed.split(',')]);
  }

  protected removeTag({ id, tags }: StoredRecording, tag: string): void {
    if (this.wanted().tag === tag) this.look({ tag: '' });
    void this.shelf.setTags(
      id,
      tags.filter((one) => one !== tag),
    );
  }

  protected rename(id: string, title: string): void {
    if (this.renaming() !== id) return;
    this.renaming.set(undefined);
    void this.shelf.rename(id, title);
  }

  protected look(part: Partial<Preferences['shelf']>): void {
    void this.#preferences.change({ shelf: { ...this.#preferences.now().shelf, ...part } });
  }

  protected choose(id: string, isChosen: boolean): void {
    this.#chosen.update((chosen) => {
      const changed = new Set(chosen);
      if (isChosen) changed.add(id);
      else changed.delete(id);
      return changed;
    });
  }

  protected chooseNone(): void {
    this.#chosen.set(new Set());
  }

  protected async remove(recordings: readonly StoredRecording[]): Promise<void> {
    const ids = recordings.map(({ id }) => id);
    const open = this.recordings.open();
    if (open.state === 'open' && ids.includes(open.opened.id)) this.recordings.close();
    await this.shelf.remove(ids);
  }
}
