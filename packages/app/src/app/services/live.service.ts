import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { proxy, wrap } from 'comlink';
import { BehaviorSubject } from 'rxjs';
import { INITIAL_LIVE_STATE, type LiveState } from '../../workers/live-state';
import type { LiveWorker } from '../../workers/live.worker';
import { SecretService } from './secret.service';

/** Targets, and the recording that runs: a view of the worker that does the work. */
@Injectable({ providedIn: 'root' })
export class LiveService {
  readonly #worker = wrap<LiveWorker>(
    new Worker(new URL('../../workers/live.worker', import.meta.url), { type: 'module', name: 'live' }),
  );
  readonly #state = new BehaviorSubject<LiveState>(INITIAL_LIVE_STATE);
  readonly state$ = this.#state.asObservable();
  readonly state = toSignal(this.state$, { initialValue: INITIAL_LIVE_STATE });

  constructor() {
    const tell = proxy((state: LiveState) => this.#state.next(state));
    void this.#worker.connect(location.origin, inject(SecretService).secret, tell);
  }

  start(targetId: string, withNextLoad: boolean): void {
    void this.#worker.start(targetId, withNextLoad);
  }

  /** Has a page loaded again. */
  reload(targetId: string): void {
    void this.#worker.reload(targetId);
  }

  pause(): void {
    void this.#worker.command('pause');
  }

  goOn(): void {
    void this.#worker.command('go-on');
  }

  stop(): void {
    void this.#worker.command('stop');
  }

  /** Sets a mark at this moment of the recording. */
  note(text: string): void {
    void this.#worker.command('note', text);
  }

  /** Puts away a recording that has ended. */
  dismiss(): void {
    void this.#worker.dismiss();
  }
}
