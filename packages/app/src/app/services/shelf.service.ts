import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatSnackBar } from '@angular/material/snack-bar';
import { MAX_QUIET, type TimeRange } from '@nettle-patch/core';
import { liveQuery } from 'dexie';
import { from } from 'rxjs';
import { NettleDatabase, type StoredRecording } from '../../store/database';
import { RecordingStore, type RemovedRecording } from '../../store/recording-store';
import { cleanTags } from '../../store/tags';

const UNDO_MS = 10_000;

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
    await this.#store.setTags(id, cleanTags(tags));
  }

  /** Keeps the ranges in which nothing should change, in order of time. */
  async setQuiet(id: string, quiet: readonly TimeRange[]): Promise<void> {
    await this.#store.setQuiet(id, [...quiet].sort((a, b) => a.startMs - b.startMs).slice(0, MAX_QUIET));
  }

  /** Deletes recordings and offers to put them back, with those that were deleted shortly before. */
  async remove(ids: readonly string[]): Promise<void> {
    for (const id of ids) {
      const taken = await this.#store.remove(id);
      if (taken !== undefined) this.#removed.push(taken);
    }
    const all = [...this.#removed];
    const removed = all.at(-1);
    if (removed === undefined) return;
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
