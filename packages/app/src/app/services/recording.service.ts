import { Injectable, computed, inject, signal, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import {
  weightUnit,
  type Lens,
  type InteractionRow,
  type RungPiece,
  type TimeRange,
} from '@nettle-patch/core';
import { proxy, wrap, type Remote } from 'comlink';
import { map, switchMap } from 'rxjs';
import type { AnalysisWorker, Outcome } from '../../workers/analysis/analysis.worker';
import type {
  CallsMode,
  CallsPage,
  FunctionDetails,
  NamedFlame,
} from '../../workers/analysis/queries/call-queries';
import type { Failure } from '../../workers/failure';
import type { OpenedRecording, OpenedSting } from '../../workers/analysis/analysis-results';
import type { SearchHit } from '../../workers/analysis/queries/search-queries';
import type { FileInfo, ShownFile } from '../../workers/analysis/queries/source-queries';
import type { ItemDetails } from '../../workers/analysis/item-details-types';
import type { DrawnWindow, LaneInfo, ItemLine } from '../../workers/analysis/queries/timeline-queries';
import { saveBlob } from '../shared/save-blob';
import { failureWords } from '../shared/words';
import { PreferencesService } from './preferences.service';

const DEMO_FILE = 'demo/friday-sailing.nettle.jsonl.gz';
const MENDED_DEMO_FILE = 'demo/friday-sailing-mended.nettle.jsonl.gz';
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
  #thread = startAnalysisWorker();
  #worker: Remote<AnalysisWorker> = wrap<AnalysisWorker>(this.#thread);
  readonly #router = inject(Router);
  readonly #snackBar = inject(MatSnackBar);
  readonly #preferences = inject(PreferencesService);
  readonly #open = signal<OpenState>({ state: 'none' });
  readonly open = this.#open.asReadonly();
  /** The recording that is open. */
  readonly opened = computed(() => {
    const open = this.#open();
    return open.state === 'open' ? open.opened : undefined;
  });
  /** Unit of what calls took in it: "ms", or what the stacks of another format weigh. */
  readonly unit = computed(() => {
    const opened = this.opened();
    return opened === undefined ? 'ms' : weightUnit(opened.header);
  });
  /** Name of the file that could not be read, while that is told. */
  #reading: string | undefined;
  /** Share of a file that has been read, while one is being read. */
  readonly importing = signal<number | undefined>(undefined);

  /** The recording that is open, if it is the one a view asks for. */
  openedAs(id: Signal<string>): Signal<OpenedRecording | undefined> {
    return computed(() => {
      const opened = this.opened();
      return opened?.id === id() ? opened : undefined;
    });
  }

  /** Opens a recording of the shelf, unless it is open already. */
  async openStored(id: string): Promise<void> {
    const now = this.#open();
    if ((now.state === 'open' && now.opened.id === id) || (now.state === 'opening' && now.id === id)) return;
    this.#open.set({ state: 'opening', id, share: 0 });
    await this.#preferences.ready;
    const { thresholds, ownPaths, libraryPaths } = this.#preferences.now();
    const onProgress = proxy((done: number, total: number) => {
      const current = this.#open();
      if (current.state === 'opening' && current.id === id)
        this.#open.set({ ...current, share: done / total });
    });
    const outcome = await this.#worker.openStored(id, onProgress, { thresholds, ownPaths, libraryPaths });
    const current = this.#open();
    if (current.state !== 'opening' || current.id !== id) return;
    if ('value' in outcome) this.#open.set({ state: 'open', opened: outcome.value });
    else this.#open.set({ state: 'failed', id, words: failureWords(outcome.failure) });
  }

  /** Reads the open recording once more, as something it depends on was changed. */
  async openReplay(): Promise<void> {
    const opened = this.opened();
    if (opened === undefined) return;
    this.#open.set({ state: 'none' });
    await this.openStored(opened.id);
  }

  /** Forgets the open recording, because it was deleted or goes on growing. */
  close(): void {
    this.#open.set({ state: 'none' });
  }

  /** Ends whatever is being read, at once. What was on the shelf stays there. */
  cancel(): void {
    this.#thread.terminate();
    this.#thread = startAnalysisWorker();
    this.#worker = wrap<AnalysisWorker>(this.#thread);
    this.importing.set(undefined);
    if (this.#open().state !== 'opening') return;
    this.#open.set({ state: 'none' });
    void this.#router.navigate(['/shelf']);
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

  /** Name of a function of the open recording; empty until it is known. To be called where `inject` may be. */
  functionName(functionId: Signal<number | undefined>): Signal<string> {
    const names = toObservable(functionId).pipe(
      switchMap(async (id) => (id === undefined ? '' : this.#valueOf(await this.#worker.functionName(id)))),
      map((name) => name ?? ''),
    );
    return toSignal(names, { initialValue: '' });
  }

  async stingsOfFunction(functionId: number): Promise<number[] | undefined> {
    return this.#valueOf(await this.#worker.stingsOfFunction(functionId));
  }

  async search(text: string): Promise<SearchHit[] | undefined> {
    return this.#valueOf(await this.#worker.search(text));
  }

  async lanes(): Promise<LaneInfo[] | undefined> {
    return this.#valueOf(await this.#worker.lanes());
  }

  async draw(range: TimeRange, pixels: number, ids: readonly string[]): Promise<DrawnWindow | undefined> {
    return this.#valueOf(await this.#worker.draw(range, pixels, ids));
  }

  async itemAt(lane: string, ms: number, row: number, withinMs: number): Promise<ItemDetails | undefined> {
    return this.#valueOf(await this.#worker.itemAt(lane, ms, row, withinMs));
  }

  async item(lane: string, ref: number): Promise<ItemDetails | undefined> {
    return this.#valueOf(await this.#worker.item(lane, ref));
  }

  async itemLines(lane: string, range: TimeRange): Promise<ItemLine[] | undefined> {
    return this.#valueOf(await this.#worker.itemLines(lane, range));
  }

  async rungs(): Promise<readonly InteractionRow[] | undefined> {
    return this.#valueOf(await this.#worker.rungs());
  }

  async interactionSlices(places: readonly number[]): Promise<RungPiece[][] | undefined> {
    return this.#valueOf(await this.#worker.interactionSlices(places));
  }

  async files(lens: Lens): Promise<FileInfo[] | undefined> {
    return this.#valueOf(await this.#worker.files(lens));
  }

  async file(lens: Lens, file: string): Promise<ShownFile | undefined> {
    return this.#valueOf(await this.#worker.file(lens, file));
  }

  async filePlace(functionId: number): Promise<{ readonly file: string; readonly line: number } | undefined> {
    return this.#valueOf(await this.#worker.filePlace(functionId));
  }

  async supplyText(file: string, text: string): Promise<void> {
    this.#valueOf(await this.#worker.supplyText(file, text));
  }

  /** Reads files and puts them on the shelf; shows the recording where it is the only one. */
  async importFiles(files: readonly Blob[]): Promise<void> {
    const ids: string[] = [];
    for (const file of files) {
      const id = await this.importFile(file);
      if (id !== undefined) ids.push(id);
    }
    const [first] = ids;
    if (first === undefined) return;
    await this.#router.navigate(files.length === 1 ? ['/stings', first] : ['/shelf']);
  }

  /** Reads a file and puts it on the shelf. @returns its id; undefined where it could not be read, which is told */
  async importFile(file: Blob): Promise<string | undefined> {
    this.importing.set(0);
    const worker = this.#worker;
    const onProgress = proxy((done: number, total: number) => {
      if (this.#worker === worker) this.importing.set(done / Math.max(1, total));
    });
    const outcome = await this.#worker.importFile(file, onProgress);
    this.#reading = file instanceof File ? file.name : undefined;
    const id = this.#valueOf(outcome);
    this.#reading = undefined;
    this.importing.set(undefined);
    return id;
  }

  /** Shows the demo recording that ships with the tool. */
  async importDemo(): Promise<void> {
    const id = await this.#keepDemo(DEMO_FILE);
    if (id !== undefined) await this.#router.navigate(['/stings', id]);
  }

  /** Holds the demo recording against that of the mended app. */
  async compareDemo(): Promise<void> {
    const before = await this.#keepDemo(DEMO_FILE);
    const after = await this.#keepDemo(MENDED_DEMO_FILE);
    if (before === undefined || after === undefined) return;
    await this.#router.navigate(['/compare'], { queryParams: { before, after } });
  }

  async #keepDemo(path: string): Promise<string | undefined> {
    try {
      const answer = await fetch(path);
      if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
      return await this.importFile(await answer.blob());
    } catch (error) {
      this.#showFailure({
        code: 'unexpected',
        detail: `the demo recording could not be loaded, ${(error as Error).message}`,
      });
      return undefined;
    }
  }

  /** Saves a recording to a file of the user's. */
  async saveFile(id: string): Promise<void> {
    const file = this.#valueOf(await this.#worker.exportFile(id, this.#preferences.now().saveTexts));
    if (file !== undefined) saveBlob(file.blob, file.name);
  }

  #valueOf<T>(outcome: Outcome<T>): T | undefined {
    if ('value' in outcome) return outcome.value;
    this.#showFailure(outcome.failure);
    return undefined;
  }

  #showFailure(failure: Failure): void {
    const name = this.#reading === undefined ? '' : `${this.#reading}: `;
    this.#snackBar.open(name + failureWords(failure), 'Close', { duration: ERROR_MS });
  }
}

/** A thread that reads and analyses, of its own. */
export function startAnalysisWorker(): Worker {
  return new Worker(new URL('../../workers/analysis/analysis.worker', import.meta.url), {
    type: 'module',
    name: 'analysis',
  });
}
