import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { Trial, TrialRun } from '@nettle-patch/core';
import { liveQuery } from 'dexie';
import { from } from 'rxjs';
import { NettleDatabase, type StoredTrial } from '../../store/database';
import { TrialStore } from '../../store/trial-store';

const UNDO_MS = 10_000;
const now = () => new Date().toISOString();

/** The trials kept in this browser. */
@Injectable({ providedIn: 'root' })
export class TrialShelfService {
  readonly #store = new TrialStore(new NettleDatabase());
  readonly #snackBar = inject(MatSnackBar);
  /** The newest first; undefined until they have been read. */
  readonly trials = toSignal(from(liveQuery(() => this.#store.list())));

  /** @returns its id */
  async add(trial: Trial): Promise<string> {
    const id = crypto.randomUUID();
    await this.#store.put({ id, changedAt: now(), trial, runs: [] });
    return id;
  }

  get(id: string): Promise<StoredTrial | undefined> {
    return this.#store.get(id);
  }

  async keep(id: string, trial: Trial, runs: readonly TrialRun[]): Promise<void> {
    await this.#store.put({ id, changedAt: now(), trial, runs });
  }

  /** Deletes a trial and offers to put it back. */
  async remove(id: string): Promise<void> {
    const kept = await this.#store.get(id);
    if (kept === undefined) return;
    await this.#store.remove(id);
    const offer = this.#snackBar.open(`“${kept.trial.name}” was deleted.`, 'Undo', { duration: UNDO_MS });
    offer.onAction().subscribe(() => void this.#store.put(kept));
  }
}
