import { durationText, bytesText, feltText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { StoredRecording, Verdict } from '../../store/database';
import { RecordingService } from '../services/recording.service';
import { FilesService } from '../services/files.service';
import { ShelfService } from '../services/shelf.service';
import { StorageService } from '../services/storage.service';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { formatDate } from '../shared/format';
import { FocusNowDirective } from '../shared/focus-now.directive';
import { IconComponent } from '../shared/icon.component';
import { OpenFilesComponent } from '../files/open-files.component';
import { CardSkylineComponent } from './card-skyline.component';
import { findRecordings, tagsOf, type Order } from './find-recordings';
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
    FocusNowDirective,
    OpenFilesComponent,
    TrendComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shelf.component.html',
  styleUrl: './shelf.component.scss',
})
export class ShelfComponent {
  protected readonly shelf = inject(ShelfService);
  protected readonly recordings = inject(RecordingService);
  protected readonly files = inject(FilesService);
  protected readonly storage = inject(StorageService);
  protected readonly renaming = signal<string | undefined>(undefined);
  protected readonly tagging = signal<string | undefined>(undefined);
  protected readonly text = signal('');
  protected readonly tag = signal<string | undefined>(undefined);
  protected readonly order = signal<Order>('newest');
  protected readonly orders = ORDERS;
  protected readonly tags = computed(() => tagsOf(this.shelf.recordings() ?? []));
  protected readonly shown = computed(() =>
    findRecordings(this.shelf.recordings() ?? [], {
      text: this.text(),
      tag: this.tag(),
      order: this.order(),
    }),
  );
  /** Those with the chosen tag, where there are enough of them to be put beside each other. */
  protected readonly trend = computed(() => {
    const tag = this.tag();
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
    if (this.tag() === tag) this.tag.set(undefined);
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

  protected async remove(recording: StoredRecording): Promise<void> {
    const open = this.recordings.open();
    if (open.state === 'open' && open.opened.id === recording.id) this.recordings.close();
    await this.shelf.remove(recording.id);
  }
}
