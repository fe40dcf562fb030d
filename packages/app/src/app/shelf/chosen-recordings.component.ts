import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { MAX_SEVERAL, countedText } from '@nettle-patch/core';
import type { StoredRecording } from '../../store/database';
import { FilesService } from '../services/files.service';
import { ShelfService } from '../services/shelf.service';
import { FocusNowDirective } from '../shared/focus-now.directive';

/** What can be done with several recordings at once. */
@Component({
  selector: 'np-chosen-recordings',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, RouterLink, FocusNowDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', 'aria-label': 'Chosen recordings' },
  template: `
    <strong role="status">{{ words() }}</strong>
    @if (pair(); as pair) {
      <a
        mat-flat-button
        routerLink="/compare"
        [queryParams]="{ before: pair.before.id, after: pair.after.id }"
        [title]="'Before: ' + pair.before.title + '. After: ' + pair.after.title"
        >Compare</a
      >
    } @else if (several(); as ids) {
      <a mat-flat-button routerLink="/compare/several" [queryParams]="{ recordings: ids }">Compare</a>
    }
    @if (isTagging()) {
      <mat-form-field class="compact">
        <input
          #typed
          matInput
          npFocusNow
          aria-label="Tags for all of them, with commas between them"
          placeholder="release 4, quay"
          maxlength="120"
          (keydown.enter)="tag(typed.value)"
          (keydown.escape)="isTagging.set(false)"
        />
      </mat-form-field>
    } @else {
      <button type="button" mat-stroked-button (click)="isTagging.set(true)">Tag</button>
    }
    <button type="button" mat-stroked-button (click)="save()">Save to files</button>
    <button type="button" mat-stroked-button (click)="remove.emit()">Delete</button>
    <button type="button" mat-button (click)="letGo.emit()">Clear selection</button>
  `,
  styles: `
    :host {
      position: sticky;
      top: -20px;
      z-index: 2;
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 10px;
      margin-bottom: 12px;
      padding: 8px 14px;
      background: var(--nettle-soft);
      border-radius: 6px;
    }
    strong {
      margin-right: 6px;
    }
  `,
})
export class ChosenRecordingsComponent {
  readonly #shelf = inject(ShelfService);
  readonly #files = inject(FilesService);
  readonly recordings = input.required<readonly StoredRecording[]>();
  readonly remove = output();
  readonly letGo = output();
  protected readonly isTagging = signal(false);
  protected readonly words = computed(() => `${countedText(this.recordings().length, 'recording')} chosen`);
  /** The older of two is the one before. */
  protected readonly pair = computed(() => {
    const [before, after, more] = [...this.recordings()].sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1));
    return before === undefined || after === undefined || more !== undefined ? undefined : { before, after };
  });

  /** Three or more, the oldest first, as the address has them. */
  protected readonly several = computed(() => {
    const all = [...this.recordings()].sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1));
    return all.length < 3 || all.length > MAX_SEVERAL ? undefined : all.map(({ id }) => id).join(',');
  });

  protected tag(typed: string): void {
    this.isTagging.set(false);
    for (const { id, tags } of this.recordings()) {
      void this.#shelf.setTags(id, [...tags, ...typed.split(',')]);
    }
  }

  protected async save(): Promise<void> {
    for (const { id } of this.recordings()) await this.#files.saveFile(id);
  }
}
