import { Injectable, inject, signal } from '@angular/core';
import { parseVersusEvent, type VersusOutcome } from '@nettle-patch/core';
import { AnswerLines } from './answer-lines';
import { ApiService } from './api.service';
import type { ReplayRequest } from './replay.service';

/** Two addresses that are to be held against each other, and how. */
export interface VersusRequest extends Omit<ReplayRequest, 'times' | 'freshLoads' | 'title'> {
  /** Loads of each, at most. */
  readonly rounds: number;
  /** Address of the page in the other version. */
  readonly against: string;
  /** What the recordings of the loads are called before their side and round. */
  readonly title?: string;
}

export type VersusState =
  | { readonly state: 'idle' }
  | {
      readonly state: 'running';
      /** Loads that are made, of how many at most. */
      readonly done: number;
      readonly of: number;
      readonly leftMs: number | undefined;
    }
  | { readonly state: 'done'; readonly outcome: VersusOutcome }
  | { readonly state: 'failed'; readonly words: string };

/** Has the server hold two addresses against each other, by fresh loads of both in turn. */
@Injectable({ providedIn: 'root' })
export class VersusService {
  readonly #api = inject(ApiService);
  readonly #state = signal<VersusState>({ state: 'idle' });
  readonly state = this.#state.asReadonly();
  #control: AbortController | undefined;

  async run(request: VersusRequest): Promise<void> {
    const control = new AbortController();
    this.#control = control;
    const of = 2 * request.rounds;
    this.#state.set({ state: 'running', done: 0, of, leftMs: undefined });
    try {
      const answer = await this.#api.ask('POST', 'versus', { body: request, signal: control.signal });
      if (!answer.ok) throw new Error(await answer.text());
      await this.#follow(new AnswerLines(answer.body!.getReader()), of);
    } catch (error) {
      if (control.signal.aborted) this.#state.set({ state: 'idle' });
      else this.#state.set({ state: 'failed', words: (error as Error).message });
    }
  }

  cancel(): void {
    this.#control?.abort();
  }

  /** Forgets what came of the last one. */
  reset(): void {
    if (this.#state().state !== 'running') this.#state.set({ state: 'idle' });
  }

  async #follow(lines: AnswerLines, of: number): Promise<void> {
    let done = -1;
    const events = lines.events(parseVersusEvent);
    for (;;) {
      const { value: event } = await events.next();
      if (event.type === 'load')
        this.#state.set({ state: 'running', done: ++done, of, leftMs: event.leftMs });
      else if (event.type === 'outcome') {
        this.#state.set({ state: 'done', outcome: event });
        return;
      }
    }
  }
}
