import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { proxy, wrap, type Remote } from 'comlink';
import { BehaviorSubject } from 'rxjs';
import { INITIAL_LIVE_STATE, type LiveState, type RecordingName } from '../../workers/live/live-state';
import type { LiveWorker } from '../../workers/live/live.worker';
import { FailureService } from './failure.service';
import { SecretService } from './secret.service';

/** A worker that fails as soon as it is started is not started without end. */
const RESTART_MS = 1000;

/** Targets, and the recording that runs: a view of the worker that does the work. */
@Injectable({ providedIn: 'root' })
export class LiveService {
  readonly #failures = inject(FailureService);
  readonly #secret = inject(SecretService).secret;
  readonly #state = new BehaviorSubject<LiveState>(INITIAL_LIVE_STATE);
  /** Id of the recording that was put away last. */
  #dismissed: string | undefined;
  readonly state$ = this.#state.asObservable();
  readonly state = toSignal(this.state$, { initialValue: INITIAL_LIVE_STATE });
  #worker = this.#start();

  start(targetId: string, withNextLoad: boolean, named: RecordingName = {}): void {
    void this.#worker.start(targetId, withNextLoad, named);
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

  /** Starts the worker; one that ends by itself is told of and started again, and goes on with what it wrote. */
  #start(): Remote<LiveWorker> {
    const thread = new Worker(new URL('../../workers/live/live.worker', import.meta.url), {
      type: 'module',
      name: 'live',
    });
    const worker = wrap<LiveWorker>(thread);
    thread.addEventListener(
      'error',
      ({ message }) => {
        thread.terminate();
        this.#failures.tell({ code: 'recording-ended', detail: message });
        setTimeout(() => (this.#worker = this.#start()), RESTART_MS);
      },
      { once: true },
    );
    void worker.connect(
      location.origin,
      this.#secret,
      proxy((state: LiveState) => this.#tell(state)),
    );
    return worker;
  }

  #tell(state: LiveState): void {
    const isLate = state.recording !== null && state.recording.id === this.#dismissed;
    this.#state.next(isLate ? { ...state, recording: null } : state);
  }
}
