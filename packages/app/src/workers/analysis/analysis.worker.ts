import {
  displayName,
  type ComparedAnatomies,
  type Lens,
  type InteractionRow,
  type RungPiece,
  type TimeRange,
} from '@nettle-patch/core';
import { expose } from 'comlink';
import { NettleDatabase } from '../../store/database';
import { RecordingStore } from '../../store/recording-store';
import { Analysis, type AnalysisSettings } from './analysis';
import type { CallsMode, CallsPage, FunctionDetails, NamedFlame } from './queries/call-queries';
import type { ComparedRecordings, ProofForm } from './queries/compare-queries';
import { exportFile, fileName } from './export';
import type { OpenedRecording, OpenedSting, OpenProgress } from './analysis-results';
import { failureOf, type Failure } from '../failure';
import type { SearchHit } from './queries/search-queries';
import type { FileInfo, ShownFile } from './queries/source-queries';
import type { DrawnWindow, LaneInfo, ItemLine } from './queries/timeline-queries';
import type { ItemDetails } from './item-details-types';
import { transferResult } from './transfer-result';
import { stingsOfFunction } from './stings-of-function';

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

  anatomies(label: string): Promise<Outcome<ComparedAnatomies>> {
    return outcome(() => this.#analysis.compared.anatomies(label));
  }

  proof(form: ProofForm): Promise<Outcome<string>> {
    return outcome(() => this.#analysis.compared.proof(form));
  }

  importFile(file: Blob, onProgress: OpenProgress): Promise<Outcome<string>> {
    return outcome(() => this.#analysis.importFile(file, onProgress));
  }

  sting(index: number): Promise<Outcome<OpenedSting>> {
    return outcome(() => this.#analysis.sting(index));
  }

  calls(lens: Lens, mode: CallsMode, expanded: readonly string[], text: string): Promise<Outcome<CallsPage>> {
    return outcome(() => this.#analysis.opened.calls.page(lens, mode, new Set(expanded), text));
  }

  flame(lens: Lens, least: number, root: number | undefined, text: string): Promise<Outcome<NamedFlame>> {
    return outcome(() => this.#analysis.opened.calls.flame(lens, 'weight', least, root, text));
  }

  functionDetails(lens: Lens, functionId: number): Promise<Outcome<FunctionDetails>> {
    return outcome(() => this.#analysis.opened.calls.details(lens, functionId));
  }

  functionName(functionId: number): Promise<Outcome<string>> {
    return outcome(() => displayName(this.#analysis.opened.recording.functions.get(functionId)));
  }

  stingsOfFunction(functionId: number): Promise<Outcome<number[]>> {
    const find = () => {
      const { recording, stings } = this.#analysis.opened;
      return stingsOfFunction(recording, stings, functionId);
    };
    return outcome(find);
  }

  search(text: string): Promise<Outcome<SearchHit[]>> {
    return outcome(() => this.#analysis.opened.search.find(text));
  }

  lanes(): Promise<Outcome<LaneInfo[]>> {
    return outcome(() => this.#analysis.opened.timeline.lanes());
  }

  /** The columns are handed over, not copied. */
  async draw(range: TimeRange, pixels: number, ids: readonly string[]): Promise<Outcome<DrawnWindow>> {
    return transferResult(await outcome(() => this.#analysis.opened.timeline.draw(range, pixels, ids)));
  }

  itemAt(lane: string, ms: number, row: number, withinMs: number): Promise<Outcome<ItemDetails | undefined>> {
    return outcome(() => this.#analysis.opened.timeline.at(lane, ms, row, withinMs));
  }

  item(lane: string, ref: number): Promise<Outcome<ItemDetails | undefined>> {
    return outcome(() => this.#analysis.opened.timeline.details(lane, ref));
  }

  itemLines(lane: string, range: TimeRange): Promise<Outcome<ItemLine[]>> {
    return outcome(() => this.#analysis.opened.timeline.lines(lane, range));
  }

  rungs(): Promise<Outcome<readonly InteractionRow[]>> {
    return outcome(() => this.#analysis.opened.timeline.rungs());
  }

  interactionSlices(places: readonly number[]): Promise<Outcome<RungPiece[][]>> {
    return outcome(() => this.#analysis.opened.timeline.interactionSlices(places));
  }

  files(lens: Lens): Promise<Outcome<FileInfo[]>> {
    return outcome(() => this.#analysis.opened.source.files(lens));
  }

  file(lens: Lens, file: string): Promise<Outcome<ShownFile>> {
    return outcome(() => this.#analysis.opened.source.file(lens, file));
  }

  filePlace(
    functionId: number,
  ): Promise<Outcome<{ readonly file: string; readonly line: number } | undefined>> {
    return outcome(() => this.#analysis.opened.source.placeOf(functionId));
  }

  supplyText(file: string, text: string): Promise<Outcome<void>> {
    return outcome(() => this.#analysis.opened.source.supply(file, text));
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
