import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { proxy, wrap } from 'comlink';
import { BehaviorSubject } from 'rxjs';
import { INITIAL_LIVE_STATE, type LiveState } from '../../workers/live/live-state';
import type { LiveWorker } from '../../workers/live/live.worker';
import { SecretService } from './secret.service';

/** Targets, and the recording that runs: a view of the worker that does the work. */
@Injectable({ providedIn: 'root' })
export class LiveService {
  readonly #worker = wrap<LiveWorker>(
    new Worker(new URL('../../workers/live/live.worker', import.meta.url), { type: 'module', name: 'live' }),
  );
  readonly #state = new BehaviorSubject<LiveState>(INITIAL_LIVE_STATE);
  /** Id of the recording that was put away last. */
  #dismissed: string | undefined;
  readonly state$ = this.#state.asObservable();
  readonly state = toSignal(this.state$, { initialValue: INITIAL_LIVE_STATE });

  constructor() {
    const tell = proxy((state: LiveState) => this.#tell(state));
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
    void this.#worker.note(text);
  }

  /** Puts away a recording that has ended, at once: what the worker tells of it meanwhile is late. */
  dismiss(): void {
    this.#dismissed = this.#state.value.recording?.id;
    this.#tell(this.#state.value);
    void this.#worker.dismiss();
  }

  #tell(state: LiveState): void {
    const isLate = state.recording !== null && state.recording.id === this.#dismissed;
    this.#state.next(isLate ? { ...state, recording: null } : state);
  }
}
