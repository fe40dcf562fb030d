import { expose } from 'comlink';
import { NettleDatabase } from '../../store/database';
import { RecordingStore } from '../../store/recording-store';
import { failureOf, type Failure } from '../failure';
import { Analysis, type AnalysisSettings } from './analysis';
import type { OpenedRecording, OpenProgress } from './analysis-results';
import { exportFile, fileName } from './export';
import type { ComparedRecordings } from './queries/compare-queries';
import type { SeveralRecordings } from './queries/several-queries';
import { QUERIES, type QueryName } from './queries/query-table';

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

  openStored(
    id: string,
    onProgress: OpenProgress,
    settings: AnalysisSettings,
  ): Promise<Outcome<OpenedRecording>> {
    return outcome(() => this.#analysis.openStored(id, onProgress, settings));
  }

  compare(
    beforeId: string,
    afterId: string,
    onProgress: OpenProgress,
    settings: AnalysisSettings,
  ): Promise<Outcome<ComparedRecordings>> {
    return outcome(() => this.#analysis.compare(beforeId, afterId, onProgress, settings));
  }

  compareSeveral(
    ids: readonly string[],
    onProgress: OpenProgress,
    settings: AnalysisSettings,
  ): Promise<Outcome<SeveralRecordings>> {
    return outcome(() => this.#analysis.compareSeveral(ids, onProgress, settings));
  }

  importFile(file: Blob, onProgress: OpenProgress): Promise<Outcome<string>> {
    return outcome(() => this.#analysis.importFile(file, onProgress));
  }

  /** Answers one of the queries of `QUERIES`. What it takes and gives is known where it is asked. */
  ask(name: QueryName, given: readonly unknown[]): Promise<Outcome<unknown>> {
    const answer = QUERIES[name] as (analysis: Analysis, ...given: readonly unknown[]) => unknown;
    return outcome(() => answer(this.#analysis, ...given));
  }

  exportFile(id: string, withTexts: boolean): Promise<Outcome<{ blob: Blob; name: string }>> {
    return outcome(async () => {
      const kept = await this.#store.get(id);
      if (kept === undefined) throw new Error(`there is no recording ${id} on the shelf`);
      return { blob: await exportFile(kept, await this.#store.pieces(id), withTexts), name: fileName(kept) };
    });
  }
}

expose(new AnalysisWorker());
