import { Injectable, inject, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import type { Lens } from '@nettle-patch/core';
import { proxy, wrap } from 'comlink';
import type { AnalysisWorker, Outcome } from '../../workers/analysis.worker';
import type { CallsMode, CallsPage, FunctionDetails, NamedFlame } from '../../workers/calls-desk';
import type { Failure } from '../../workers/failure';
import type { OpenedRecording, OpenedSting } from '../../workers/opened';
import { failureWords } from '../shared/words';

const DEMO_FILE = 'demo/friday-sailing.nettle.jsonl.gz';
const ERROR_MS = 12_000;

/** What the interface shows of the recording that is open. */
export type OpenState =
  | { readonly state: 'none' }
  | { readonly state: 'opening'; readonly id: string; readonly share: number }
  | { readonly state: 'open'; readonly opened: OpenedRecording }
  | { readonly state: 'failed'; readonly id: string; readonly words: string };

/** The recording that is open: a view of the worker that reads and analyses it. */
@Injectable({ providedIn: 'root' })
export class RecordingService {
  readonly #worker = wrap<AnalysisWorker>(
    new Worker(new URL('../../workers/analysis.worker', import.meta.url), {
      type: 'module',
      name: 'analysis',
    }),
  );
  readonly #router = inject(Router);
  readonly #snackBar = inject(MatSnackBar);
  readonly #open = signal<OpenState>({ state: 'none' });
  readonly open = this.#open.asReadonly();
  /** Share of a file that has been read, while one is being read. */
  readonly importing = signal<number | undefined>(undefined);

  /** Opens a recording of the shelf, unless it is open already. */
  async openKept(id: string): Promise<void> {
    const now = this.#open();
    if ((now.state === 'open' && now.opened.id === id) || (now.state === 'opening' && now.id === id)) return;
    this.#open.set({ state: 'opening', id, share: 0 });
    const onProgress = proxy((done: number, total: number) => {
      const current = this.#open();
      if (current.state === 'opening' && current.id === id)
        this.#open.set({ ...current, share: done / total });
    });
    const outcome = await this.#worker.openKept(id, onProgress);
    const current = this.#open();
    if (current.state !== 'opening' || current.id !== id) return;
    if ('value' in outcome) this.#open.set({ state: 'open', opened: outcome.value });
    else this.#open.set({ state: 'failed', id, words: failureWords(outcome.failure) });
  }

  /** Forgets the open recording, because it was deleted or goes on growing. */
  close(): void {
    this.#open.set({ state: 'none' });
  }

  async sting(index: number): Promise<OpenedSting | undefined> {
    return this.#valueOf(await this.#worker.sting(index));
  }

  async calls(
    lens: Lens,
    mode: CallsMode,
    expanded: readonly string[],
    text: string,
  ): Promise<CallsPage | undefined> {
    return this.#valueOf(await this.#worker.calls(lens, mode, expanded, text));
  }

  async flame(
    lens: Lens,
    least: number,
    root: number | undefined,
    text: string,
  ): Promise<NamedFlame | undefined> {
    return this.#valueOf(await this.#worker.flame(lens, least, root, text));
  }

  async functionDetails(lens: Lens, functionId: number): Promise<FunctionDetails | undefined> {
    return this.#valueOf(await this.#worker.functionDetails(lens, functionId));
  }

  /** Reads a file, puts it on the shelf and shows it. */
  async importFile(file: Blob): Promise<void> {
    this.importing.set(0);
    const onProgress = proxy((done: number, total: number) => this.importing.set(done / Math.max(1, total)));
    const id = this.#valueOf(await this.#worker.importFile(file, onProgress));
    this.importing.set(undefined);
    if (id !== undefined) await this.#router.navigate(['/stings', id]);
  }

  /** Shows the demo recording that ships with the tool. */
  async importDemo(): Promise<void> {
    try {
      const answer = await fetch(DEMO_FILE);
      if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
      await this.importFile(await answer.blob());
    } catch (error) {
      this.#showFailure({
        code: 'unexpected',
        detail: `the demo recording could not be loaded, ${(error as Error).message}`,
      });
    }
  }

  /** Saves a recording to a file of the user's. */
  async saveFile(id: string): Promise<void> {
    const file = this.#valueOf(await this.#worker.exportFile(id));
    if (file === undefined) return;
    const link = document.createElement('a');
    link.href = URL.createObjectURL(file.blob);
    link.download = file.name;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
  }

  #valueOf<T>(outcome: Outcome<T>): T | undefined {
    if ('value' in outcome) return outcome.value;
    this.#showFailure(outcome.failure);
    return undefined;
  }

  #showFailure(failure: Failure): void {
    this.#snackBar.open(failureWords(failure), 'Close', { duration: ERROR_MS });
  }
}
