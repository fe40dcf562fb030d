import { Injectable, inject, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { ComparedAnatomies } from '@nettle-patch/core';
import { proxy, wrap, type Remote } from 'comlink';
import type { AnalysisWorker, Outcome } from '../../workers/analysis/analysis.worker';
import type { ComparedRecordings, ProofForm } from '../../workers/analysis/queries/compare-queries';
import { failureWords } from '../shared/words';
import { PreferencesService } from './preferences.service';
import { startAnalysisWorker } from './recording.service';

const BEFORE_KEY = 'nettle-patch before';

/** What the interface shows of two recordings that are held against each other. */
export type CompareState =
  | { readonly state: 'none' }
  | { readonly state: 'comparing'; readonly share: number }
  | { readonly state: 'compared'; readonly compared: ComparedRecordings }
  | { readonly state: 'failed'; readonly words: string };

/** Two recordings side by side: a view of a worker of its own, so that the open recording stays as it is. */
@Injectable({ providedIn: 'root' })
export class CompareService {
  readonly #preferences = inject(PreferencesService);
  readonly #snackBar = inject(MatSnackBar);
  readonly #state = signal<CompareState>({ state: 'none' });
  readonly state = this.#state.asReadonly();
  readonly #before = signal<string | undefined>(sessionStorage.getItem(BEFORE_KEY) ?? undefined);
  /** The recording that the next one is to be held against. */
  readonly before = this.#before.asReadonly();
  #thread: Worker | undefined;
  #worker: Remote<AnalysisWorker> | undefined;

  /** Has the next recording be held against this one. */
  rememberBefore(id: string | undefined): void {
    this.#before.set(id);
    if (id === undefined) sessionStorage.removeItem(BEFORE_KEY);
    else sessionStorage.setItem(BEFORE_KEY, id);
  }

  async compare(beforeId: string, afterId: string): Promise<void> {
    this.cancel();
    this.#thread = startAnalysisWorker();
    const worker = (this.#worker = wrap<AnalysisWorker>(this.#thread));
    this.#state.set({ state: 'comparing', share: 0 });
    await this.#preferences.ready;
    const { thresholds, ownPaths, libraryPaths } = this.#preferences.now();
    const onProgress = proxy((done: number, total: number) => {
      if (this.#worker === worker) this.#state.set({ state: 'comparing', share: done / Math.max(1, total) });
    });
    const outcome = await worker.compare(beforeId, afterId, onProgress, {
      thresholds,
      ownPaths,
      libraryPaths,
    });
    if (this.#worker !== worker) return;
    if ('value' in outcome) this.#state.set({ state: 'compared', compared: outcome.value });
    else this.#state.set({ state: 'failed', words: failureWords(outcome.failure) });
  }

  /** Ends what is being compared, and forgets what was. */
  cancel(): void {
    this.#thread?.terminate();
    this.#thread = undefined;
    this.#worker = undefined;
    this.#state.set({ state: 'none' });
  }

  async anatomies(label: string): Promise<ComparedAnatomies | undefined> {
    const answer = await this.#worker?.anatomies(label);
    return answer && this.#valueOf(answer);
  }

  async proof(form: ProofForm): Promise<string | undefined> {
    const answer = await this.#worker?.proof(form);
    return answer && this.#valueOf(answer);
  }

  #valueOf<T>(outcome: Outcome<T>): T | undefined {
    if ('value' in outcome) return outcome.value;
    this.#snackBar.open(failureWords(outcome.failure), 'Close');
    return undefined;
  }
}
