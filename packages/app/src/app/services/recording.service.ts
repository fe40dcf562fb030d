import { Injectable, computed, inject, signal, type Signal } from '@angular/core';
import { Router } from '@angular/router';
import { weightUnit } from '@nettle-patch/core';
import { proxy } from 'comlink';
import type { Observable } from 'rxjs';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';
import type { QueryAnswer, QueryArguments, QueryName } from '../../workers/analysis/queries/query-table';
import { answerTo } from '../shared/answer-to';
import { failureWords } from '../shared/words';
import { AddressService } from './address.service';
import { AnalysisThread } from './analysis-thread';
import { FailureService } from './failure.service';
import { PreferencesService } from './preferences.service';

/** What the interface shows of the recording that is open. */
export type OpenState =
  | { readonly state: 'none' }
  | { readonly state: 'opening'; readonly id: string; readonly share: number }
  | { readonly state: 'open'; readonly opened: OpenedRecording }
  | { readonly state: 'failed'; readonly id: string; readonly words: string };

/** The recording that is open: a view of the worker that reads and analyses it. */
@Injectable({ providedIn: 'root' })
export class RecordingService {
  readonly #router = inject(Router);
  readonly #address = inject(AddressService);
  readonly #failures = inject(FailureService);
  /** The thread that reads and analyses. */
  #thread = this.#newThread();
  readonly #preferences = inject(PreferencesService);
  readonly #open = signal<OpenState>({ state: 'none' });
  readonly open = this.#open.asReadonly();
  /** The recording that is open. */
  readonly opened = computed(() => {
    const open = this.#open();
    return open.state === 'open' ? open.opened : undefined;
  });
  /** The recording that the view looks into. */
  readonly analysed = computed(() => (this.#address.analyses() ? this.opened() : undefined));
  /** Unit of what calls took in it: "ms", or what the stacks of another format weigh. */
  readonly unit = computed(() => {
    const opened = this.opened();
    return opened === undefined ? 'ms' : weightUnit(opened.header);
  });
  /** What the thread can do beside answering questions. It is another after `cancel`. */
  get worker(): AnalysisThread['remote'] {
    return this.#thread.remote;
  }

  /** The recording that is open, if it is the one a view asks for. */
  openedAs(id: Signal<string>): Signal<OpenedRecording | undefined> {
    return computed(() => {
      const opened = this.opened();
      return opened?.id === id() ? opened : undefined;
    });
  }

  /** Opens a recording of the shelf, unless it is open already. */
  async openStored(id: string): Promise<void> {
    const now = this.#open();
    if ((now.state === 'open' && now.opened.id === id) || (now.state === 'opening' && now.id === id)) return;
    this.#open.set({ state: 'opening', id, share: 0 });
    await this.#preferences.ready;
    const { thresholds, ownPaths, libraryPaths } = this.#preferences.now();
    const onProgress = proxy((done: number, total: number) => {
      const current = this.#open();
      if (current.state === 'opening' && current.id === id)
        this.#open.set({ ...current, share: done / total });
    });
    const outcome = await this.worker.openStored(id, onProgress, { thresholds, ownPaths, libraryPaths });
    const current = this.#open();
    if (current.state !== 'opening' || current.id !== id) return;
    if ('value' in outcome) this.#open.set({ state: 'open', opened: outcome.value });
    else this.#open.set({ state: 'failed', id, words: failureWords(outcome.failure) });
  }

  /** Reads the open recording once more, as something it depends on was changed. */
  async openReplay(): Promise<void> {
    const opened = this.opened();
    if (opened === undefined) return;
    this.#open.set({ state: 'none' });
    await this.openStored(opened.id);
  }

  /** Forgets the open recording, because it was deleted or goes on growing. */
  close(): void {
    this.#open.set({ state: 'none' });
  }

  /** Ends whatever is being read, at once. What was on the shelf stays there. */
  cancel(): void {
    this.#thread.end();
    this.#thread = this.#newThread();
    if (this.#open().state !== 'opening') return;
    this.#open.set({ state: 'none' });
    void this.#router.navigate(['/shelf']);
  }

  /** Asks about the open recording when it is subscribed to. Why there is no answer is told; then none is given. */
  ask<Name extends QueryName>(name: Name, ...given: QueryArguments<Name>): Observable<QueryAnswer<Name>> {
    return this.#failures.values(this.#thread.ask(name, ...given));
  }

  /** Name of a function of the open recording; empty until it is known. To be called where `inject` may be. */
  functionName(functionId: Signal<number | undefined>): Signal<string> {
    const name = answerTo(functionId, (id) => this.ask('functionName', id));
    return computed(() => name() ?? '');
  }

  /** Names of functions of the open recording; empty until they are known. To be called where `inject` may be. */
  functionNames(functionIds: Signal<readonly number[]>): Signal<readonly string[]> {
    const asked = computed(() => (functionIds().length === 0 ? undefined : functionIds()), {
      equal: (a, b) => a?.join() === b?.join(),
    });
    const names = answerTo(asked, (ids) => this.ask('functionNames', ids));
    return computed(() => names() ?? []);
  }

  #newThread(): AnalysisThread {
    return new AnalysisThread((words) => void this.#restart(words));
  }

  /** Says that the thread has ended by itself, and opens in another what was open. */
  async #restart(words: string): Promise<void> {
    const open = this.#open();
    this.#failures.tell({ code: 'analysis-ended', detail: words });
    this.#thread.end();
    this.#thread = this.#newThread();
    this.#open.set({ state: 'none' });
    // What could not even be opened is not tried again.
    if (open.state === 'open') await this.openStored(open.opened.id);
  }
}
