import { Injectable, inject, signal } from '@angular/core';
import { proxy } from 'comlink';
import { EMPTY, type Observable } from 'rxjs';
import type { ComparedRecordings } from '../../workers/analysis/queries/compare-queries';
import type { QueryAnswer, QueryArguments } from '../../workers/analysis/queries/query-table';
import { failureWords } from '../shared/words';
import { AnalysisThread } from './analysis-thread';
import { FailureService } from './failure.service';
import { PreferencesService } from './preferences.service';

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
  readonly #failures = inject(FailureService);
  readonly #state = signal<CompareState>({ state: 'none' });
  readonly state = this.#state.asReadonly();
  readonly #before = signal<string | undefined>(sessionStorage.getItem(BEFORE_KEY) ?? undefined);
  /** The recording that the next one is to be held against. */
  readonly before = this.#before.asReadonly();
  #thread: AnalysisThread | undefined;

  /** Has the next recording be held against this one. */
  rememberBefore(id: string | undefined): void {
    this.#before.set(id);
    if (id === undefined) sessionStorage.removeItem(BEFORE_KEY);
    else sessionStorage.setItem(BEFORE_KEY, id);
  }

  async compare(beforeId: string, afterId: string): Promise<void> {
    this.cancel();
    const thread = new AnalysisThread((words) => this.#ended(thread, words));
    this.#thread = thread;
    this.#state.set({ state: 'comparing', share: 0 });
    await this.#preferences.ready;
    const { thresholds, ownPaths, libraryPaths } = this.#preferences.now();
    const onProgress = proxy((done: number, total: number) => {
      if (this.#thread === thread) this.#state.set({ state: 'comparing', share: done / Math.max(1, total) });
    });
    const outcome = await thread.remote.compare(beforeId, afterId, onProgress, {
      thresholds,
      ownPaths,
      libraryPaths,
    });
    if (this.#thread !== thread) return;
    if ('value' in outcome) this.#state.set({ state: 'compared', compared: outcome.value });
    else this.#state.set({ state: 'failed', words: failureWords(outcome.failure) });
  }

  /** Ends what is being compared, forgets what was, and lets its thread go. */
  cancel(): void {
    this.#thread?.end();
    this.#thread = undefined;
    this.#state.set({ state: 'none' });
  }

  /** Asks about what is compared, when it is subscribed to. Why there is no answer is told; then none is given. */
  ask<Name extends 'anatomies' | 'proof'>(
    name: Name,
    ...given: QueryArguments<Name>
  ): Observable<QueryAnswer<Name>> {
    return this.#thread === undefined ? EMPTY : this.#failures.values(this.#thread.ask(name, ...given));
  }

  #ended(thread: AnalysisThread, detail: string): void {
    if (this.#thread !== thread) return;
    this.cancel();
    this.#state.set({ state: 'failed', words: failureWords({ code: 'analysis-ended', detail }) });
  }
}
