import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatSnackBar } from '@angular/material/snack-bar';
import { liveQuery } from 'dexie';
import { from } from 'rxjs';
import { NettleDatabase, type StoredRecording } from '../../store/database';
import { RecordingStore, type RemovedRecording } from '../../store/recording-store';

const UNDO_MS = 10_000;
const MAX_TAG = 40;
const MAX_TAGS = 12;

/** The recordings kept in this browser. */
@Injectable({ providedIn: 'root' })
export class ShelfService {
  readonly #store = new RecordingStore(new NettleDatabase());
  readonly #snackBar = inject(MatSnackBar);
  /** Deleted while it can still be put back. */
  readonly #removed: RemovedRecording[] = [];
  readonly recordings$ = from(liveQuery(() => this.#store.list()));
  readonly recordings = toSignal(this.recordings$);

  get(id: string): Promise<StoredRecording | undefined> {
    return this.#store.get(id);
  }

  async rename(id: string, title: string): Promise<void> {
    const trimmed = title.trim();
    if (trimmed !== '') await this.#store.rename(id, trimmed);
  }

  /** @param tags as they were typed; empty ones and repeats are left out */
  async setTags(id: string, tags: readonly string[]): Promise<void> {
    const clean = tags.map((tag) => tag.trim().slice(0, MAX_TAG)).filter((tag) => tag !== '');
    await this.#store.setTags(id, [...new Set(clean)].slice(0, MAX_TAGS));
  }

  /** Deletes a recording and offers to put it back, with those that were deleted shortly before. */
  async remove(id: string): Promise<void> {
    const removed = await this.#store.remove(id);
    if (removed === undefined) return;
    this.#removed.push(removed);
    const all = [...this.#removed];
    const words =
      all.length === 1
        ? `“${removed.recording.title}” was deleted.`
        : `${all.length} recordings were deleted, “${removed.recording.title}” last.`;
    const offer = this.#snackBar.open(words, all.length === 1 ? 'Undo' : 'Undo all', { duration: UNDO_MS });
    offer.onAction().subscribe(() => {
      this.#removed.length = 0;
      for (const one of all) void this.#store.putBack(one);
    });
    // One that takes the place of another offers what that did, too.
    offer.afterDismissed().subscribe(() => {
      if (this.#removed.length === all.length) this.#removed.length = 0;
    });
  }
}
