import { InjectionToken } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import { Observable } from 'rxjs';
import type { AnalysisWorker, Outcome } from '../../workers/analysis/analysis.worker';
import type { QueryAnswer, QueryArguments, QueryName } from '../../workers/analysis/queries/query-table';

/** A thread as it is started, so that tests may give another. */
export type StartThread = () => Worker;

const startAnalysisWorker: StartThread = () =>
  new Worker(new URL('../../workers/analysis/analysis.worker', import.meta.url), {
    type: 'module',
    name: 'analysis',
  });

/**
 * A thread that reads and analyses. Questions are put to it one after the other, so that one that nobody waits for any more
 * is never put.
 */
export class AnalysisThread {
  readonly #worker: Worker;
  /** What the thread can do beside answering questions. */
  readonly remote: Remote<AnalysisWorker>;
  readonly #waiting: (() => Promise<void>)[] = [];
  #isBusy = false;

  /** @param onDeath is called once, if the thread ends by itself; nothing is answered from then on */
  constructor(onDeath: (words: string) => void, start = startAnalysisWorker) {
    this.#worker = start();
    this.remote = wrap<AnalysisWorker>(this.#worker);
    this.#worker.addEventListener(
      'error',
      ({ message }) => onDeath(message === '' ? 'its script could not be loaded' : message),
      { once: true },
    );
  }

  /** Asks when it is subscribed to, and gives one answer. What is not waited for any more is not asked. */
  ask<Name extends QueryName>(
    name: Name,
    ...given: QueryArguments<Name>
  ): Observable<Outcome<QueryAnswer<Name>>> {
    return new Observable((subscriber) => {
      const put = async () => {
        try {
          const outcome = await this.remote.ask(name, given);
          subscriber.next(outcome as Outcome<QueryAnswer<Name>>);
          subscriber.complete();
        } catch (error) {
          subscriber.error(error);
        }
      };
      this.#waiting.push(put);
      void this.#putNext();
      return () => {
        const at = this.#waiting.indexOf(put);
        if (at >= 0) this.#waiting.splice(at, 1);
      };
    });
  }

  end(): void {
    this.#waiting.length = 0;
    this.#worker.terminate();
  }

  async #putNext(): Promise<void> {
    if (this.#isBusy) return;
    this.#isBusy = true;
    for (let put = this.#waiting.shift(); put !== undefined; put = this.#waiting.shift()) await put();
    this.#isBusy = false;
  }
}

/** Starts a thread that reads and analyses. */
export const NEW_ANALYSIS_THREAD = new InjectionToken<(onDeath: (words: string) => void) => AnalysisThread>(
  'a new thread that analyses',
  { providedIn: 'root', factory: () => (onDeath) => new AnalysisThread(onDeath) },
);
