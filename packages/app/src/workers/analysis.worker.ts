import type { Lens } from '@nettle-patch/core';
import { expose } from 'comlink';
import { NettleDatabase } from '../store/database';
import { RecordingStore } from '../store/recording-store';
import { Analysis } from './analysis';
import type { CallsMode, CallsPage, FunctionDetails, NamedFlame } from './calls-desk';
import { exportFile, fileName } from './export';
import type { OpenedRecording, OpenedSting, OpenProgress } from './opened';
import { failureOf, type Failure } from './failure';

/** The outcome of work in a worker: a value, or why there is none. */
export type Outcome<T> = { readonly value: T } | { readonly failure: Failure };

async function outcome<T>(work: () => Promise<T> | T): Promise<Outcome<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    return { failure: failureOf(error) };
  }
}

/** What the interface may ask of the worker that analyses. */
export class AnalysisWorker {
  readonly #store = new RecordingStore(new NettleDatabase());
  readonly #analysis = new Analysis(this.#store);

  openKept(id: string, onProgress: OpenProgress): Promise<Outcome<OpenedRecording>> {
    return outcome(() => this.#analysis.openKept(id, onProgress));
  }

  importFile(file: Blob, onProgress: OpenProgress): Promise<Outcome<string>> {
    return outcome(() => this.#analysis.importFile(file, onProgress));
  }

  sting(index: number): Promise<Outcome<OpenedSting>> {
    return outcome(() => this.#analysis.sting(index));
  }

  calls(lens: Lens, mode: CallsMode, expanded: readonly string[], text: string): Promise<Outcome<CallsPage>> {
    return outcome(() => this.#analysis.calls.page(lens, mode, new Set(expanded), text));
  }

  flame(lens: Lens, least: number, root: number | undefined, text: string): Promise<Outcome<NamedFlame>> {
    return outcome(() => this.#analysis.calls.flame(lens, 'weight', least, root, text));
  }

  functionDetails(lens: Lens, functionId: number): Promise<Outcome<FunctionDetails>> {
    return outcome(() => this.#analysis.calls.details(lens, functionId));
  }

  exportFile(id: string): Promise<Outcome<{ blob: Blob; name: string }>> {
    return outcome(async () => {
      const kept = await this.#store.get(id);
      if (kept === undefined) throw new Error(`there is no recording ${id} on the shelf`);
      return { blob: await exportFile(kept, await this.#store.pieces(id)), name: fileName(kept) };
    });
  }
}

expose(new AnalysisWorker());
