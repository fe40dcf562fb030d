import { Injectable, inject, signal } from '@angular/core';
import { runTrial, type Trial, type TrialBench, type TrialResult } from '@nettle-patch/core';
import { ApiService } from './api.service';
import { FrameBench, ServerBench, openTrial } from './trial-benches';

export type TrialState =
  | { readonly state: 'idle' }
  | { readonly state: 'running'; readonly trialId: string; readonly soFar: TrialResult | undefined }
  | { readonly state: 'failed'; readonly trialId: string; readonly words: string };

/** What is to be run, and where. */
export interface TrialRequest {
  readonly trialId: string;
  readonly trial: Trial;
  /** Browser of the computer the server runs on; this one where none is given. */
  readonly browser: string | undefined;
  readonly seconds: number;
}

/** Runs trials, one at a time. */
@Injectable({ providedIn: 'root' })
export class TrialsService {
  readonly #api = inject(ApiService);
  readonly #state = signal<TrialState>({ state: 'idle' });
  readonly state = this.#state.asReadonly();
  #isStopped = false;

  /** @returns what came of it; undefined where it could not be run, which the state tells */
  async run({ trialId, trial, browser, seconds }: TrialRequest): Promise<TrialResult | undefined> {
    if (this.#state().state === 'running') return undefined;
    this.#isStopped = false;
    this.#state.set({ state: 'running', trialId, soFar: undefined });
    let bench: TrialBench | undefined;
    try {
      const opened = await openTrial(this.#api, trial, browser);
      bench =
        opened.bench === undefined ? new FrameBench(opened.page) : new ServerBench(this.#api, opened.bench);
      const result = await runTrial(trial, bench, {
        maxMs: seconds * 1000,
        now: () => performance.now(),
        isStopped: () => this.#isStopped,
        onStart: (soFar) => this.#state.set({ state: 'running', trialId, soFar }),
      });
      this.#state.set({ state: 'idle' });
      return result;
    } catch (error) {
      this.#state.set({ state: 'failed', trialId, words: (error as Error).message });
      return undefined;
    } finally {
      await bench?.close();
    }
  }

  /** Ends it after the start that is being made; what was found by then is kept. */
  stop(): void {
    this.#isStopped = true;
  }

  /** Forgets what went wrong. */
  reset(): void {
    if (this.#state().state === 'failed') this.#state.set({ state: 'idle' });
  }
}
