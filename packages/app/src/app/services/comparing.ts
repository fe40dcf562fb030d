import { computed, inject, signal } from '@angular/core';
import { proxy } from 'comlink';
import { EMPTY, type Observable } from 'rxjs';
import type { AnalysisSettings } from '../../workers/analysis/analysis';
import type { OpenProgress } from '../../workers/analysis/analysis-results';
import type { Outcome } from '../../workers/analysis/analysis.worker';
import type { QueryAnswer, QueryArguments, QueryName } from '../../workers/analysis/queries/query-table';
import { failureWords } from '../shared/words';
import { AnalysisThread } from './analysis-thread';
import { FailureService } from './failure.service';
import { PreferencesService } from './preferences.service';

/** What the interface shows of recordings that are held against each other. */
export type ComparingState<Compared> =
  | { readonly state: 'none' }
  | { readonly state: 'comparing'; readonly share: number }
  | { readonly state: 'compared'; readonly compared: Compared }
  | { readonly state: 'failed'; readonly words: string };

type Work<Compared> = (
  thread: AnalysisThread,
  onProgress: OpenProgress,
  settings: AnalysisSettings,
) => Promise<Outcome<Compared>>;

/** Recordings held against each other in a thread of its own, so that the open recording stays as it is. */
export abstract class Comparing<Compared> {
  readonly #preferences = inject(PreferencesService);
  readonly #failures = inject(FailureService);
  readonly #state = signal<ComparingState<Compared>>({ state: 'none' });
  readonly state = this.#state.asReadonly();
  /** What came of it; undefined until it has. */
  readonly compared = computed(() => {
    const state = this.state();
    return state.state === 'compared' ? state.compared : undefined;
  });
  /** How far reading has come, 0 to 1. */
  readonly share = computed(() => {
    const state = this.state();
    return state.state === 'comparing' ? state.share : 0;
  });
  /** Why nothing came of it, in words. */
  readonly failure = computed(() => {
    const state = this.state();
    return state.state === 'failed' ? state.words : undefined;
  });
  #thread: AnalysisThread | undefined;

  /** Ends what is being compared, forgets what was, and lets its thread go. */
  cancel(): void {
    this.#thread?.end();
    this.#thread = undefined;
    this.#state.set({ state: 'none' });
  }

  protected async begin(work: Work<Compared>): Promise<void> {
    this.cancel();
    const thread = new AnalysisThread((words) => this.#ended(thread, words));
    this.#thread = thread;
    this.#state.set({ state: 'comparing', share: 0 });
    await this.#preferences.ready;
    const { thresholds, ownPaths, libraryPaths } = this.#preferences.now();
    const onProgress = proxy((done: number, total: number) => {
      if (this.#thread === thread) this.#state.set({ state: 'comparing', share: done / Math.max(1, total) });
    });
    const outcome = await work(thread, onProgress, { thresholds, ownPaths, libraryPaths });
    if (this.#thread !== thread) return;
    if ('value' in outcome) this.#state.set({ state: 'compared', compared: outcome.value });
    else this.#state.set({ state: 'failed', words: failureWords(outcome.failure) });
  }

  /** Asks about what is compared, when it is subscribed to. Why there is no answer is told; then none is given. */
  protected askThread<Name extends QueryName>(
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
