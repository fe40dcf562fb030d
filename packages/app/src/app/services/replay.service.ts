import { Injectable, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import {
  checked,
  parseReplayEvent,
  replayBrowsersSchema,
  type ProxySettings,
  type ReplayBrowser,
  type Step,
} from '@nettle-patch/core';
import { FilesService } from './files.service';
import { ApiService } from './api.service';
import { AnswerLines } from './answer-lines';

/** What is to be done again, and how. */
export interface ReplayRequest {
  readonly steps: readonly Step[];
  readonly times: number;
  readonly browser: string;
  /** Address of the app, as it was recorded or as its server has it. */
  readonly app?: string;
  /** Path of the page, with its query. */
  readonly path: string;
  readonly mode: ProxySettings['mode'];
  /** How many times slower the browser is to run; as it is where absent. */
  readonly slow?: number;
  /** Whether the page is loaded afresh for each round. */
  readonly freshLoads: boolean;
  readonly title: string;
}

export type ReplayState =
  | { readonly state: 'idle' }
  | { readonly state: 'running'; readonly done: number; readonly of: number; readonly inBrowser: boolean }
  | { readonly state: 'failed'; readonly words: string };

/** Has the server take steps in a browser of its own and record meanwhile. */
@Injectable({ providedIn: 'root' })
export class ReplayService {
  readonly #api = inject(ApiService);
  readonly #files = inject(FilesService);
  readonly #router = inject(Router);
  readonly #state = signal<ReplayState>({ state: 'idle' });
  readonly state = this.#state.asReadonly();
  /** Browsers of the computer the server runs on. */
  readonly browsers = signal<readonly ReplayBrowser[]>([]);
  #control: AbortController | undefined;

  async lookForBrowsers(): Promise<void> {
    const answer = await this.#api.ask('GET', 'replay').catch(() => undefined);
    if (answer?.ok) this.browsers.set(checked(await answer.json(), replayBrowsersSchema));
  }

  /** Does it, and shows the recording that comes of it. @returns whether there is one */
  async run(request: ReplayRequest): Promise<boolean> {
    this.#control = new AbortController();
    this.#state.set({ state: 'running', done: 0, of: request.times, inBrowser: false });
    try {
      const answer = await this.#api.ask('POST', 'replay', { body: request, signal: this.#control.signal });
      if (!answer.ok) throw new Error(await answer.text());
      return await this.#follow(new AnswerLines(answer.body!.getReader()), request.times);
    } catch (error) {
      this.#fail(error);
      return false;
    }
  }

  cancel(): void {
    this.#control?.abort();
  }

  /** Forgets what went wrong. */
  reset(): void {
    this.#state.set({ state: 'idle' });
  }

  async #follow(lines: AnswerLines, times: number): Promise<boolean> {
    const events = lines.events(parseReplayEvent);
    for (;;) {
      const { value: event } = await events.next();
      if (event.type === 'round') {
        this.#state.set({ state: 'running', done: event.done, of: times, inBrowser: true });
      } else if (event.type === 'recording') {
        return this.#keep(await lines.rest(), event.failure);
      }
    }
  }

  async #keep(recording: Blob, failure: string | undefined): Promise<boolean> {
    const id = await this.#files.importFile(recording);
    if (failure === undefined) this.#state.set({ state: 'idle' });
    else this.#state.set({ state: 'failed', words: `${failure}. The recording holds what came before.` });
    if (id !== undefined) await this.#router.navigate(['/stings', id]);
    return id !== undefined && failure === undefined;
  }

  #fail(error: unknown): void {
    const ended = this.#control?.signal.aborted === true;
    const { message } = error as Error;
    const words = error instanceof TypeError ? 'the server is not there. Start it again.' : message;
    this.#state.set(ended ? { state: 'idle' } : { state: 'failed', words: `Not done: ${words}` });
  }
}
