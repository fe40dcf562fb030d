import { Injectable, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { proxy } from 'comlink';
import { BadStepsError, BadTrialError, readSteps, readTrial, type Step } from '@nettle-patch/core';
import { Subject } from 'rxjs';
import { readKind } from '../shared/read-kind';
import { saveBlob } from '../shared/save-blob';
import { NEW_ANALYSIS_THREAD, type AnalysisThread } from './analysis-thread';
import { FailureService } from './failure.service';
import { PreferencesService } from './preferences.service';
import { RecordingService } from './recording.service';
import { TrialShelfService } from './trial-shelf.service';

const DEMO_FILE = 'demo/friday-sailing.nettle.jsonl.gz';
const DEMO_TRIAL = 'demo/fold-accents.trial.json';
const MENDED_DEMO_FILE = 'demo/friday-sailing-mended.nettle.jsonl.gz';

/** Brings files to the shelf, and saves what is on it to files. */
@Injectable({ providedIn: 'root' })
export class FilesService {
  readonly #recordings = inject(RecordingService);
  readonly #trials = inject(TrialShelfService);
  readonly #newThread = inject(NEW_ANALYSIS_THREAD);
  readonly #failures = inject(FailureService);
  readonly #preferences = inject(PreferencesService);
  readonly #router = inject(Router);
  /** Share of a file that has been read, while one is being read. */
  readonly importing = signal<number | undefined>(undefined);

  readonly #steps = new Subject<readonly Step[]>();
  /** Steps of files that were brought, to be offered to be done. */
  readonly steps$ = this.#steps.asObservable();

  /** The threads that read files, each one, beside that of the recording that is open. */
  readonly #threads = new Set<AnalysisThread>();

  /** Ends whatever is being read, at once. What was on the shelf, and what is open, stays as it is. */
  cancel(): void {
    for (const thread of this.#threads) this.#end(thread);
  }

  #end(thread: AnalysisThread): void {
    thread.end();
    this.#threads.delete(thread);
    if (this.#threads.size === 0) this.importing.set(undefined);
  }

  /**
   * The one door for files, whatever button they come by: recordings of all formats go on the shelf, and the only one is
   * shown; steps are offered to be done; a trial is opened; what is none of them is told in words.
   */
  async open(files: readonly File[]): Promise<void> {
    const ids: string[] = [];
    for (const file of files) {
      const { kind, text } = await readKind(file);
      if (kind === 'steps') this.#openSteps(text, file.name);
      else if (kind === 'trial') await this.#openTrial(text, file.name);
      else if (kind === 'budget') this.#failures.tell({ code: 'is-budget', detail: '' }, file.name);
      else {
        const id = await this.importFile(file);
        if (id !== undefined) ids.push(id);
      }
    }
    const [first] = ids;
    if (first === undefined) return;
    await this.#router.navigate(files.length === 1 ? ['/stings', first] : ['/shelf']);
  }

  #openSteps(text: string, name: string): void {
    try {
      this.#steps.next(readSteps(text));
    } catch (error) {
      if (!(error instanceof BadStepsError)) throw error;
      this.#failures.tell({ code: 'bad-steps', detail: error.message }, name);
    }
  }

  async #openTrial(text: string, name: string): Promise<void> {
    try {
      await this.#router.navigate(['/trials', await this.#trials.add(readTrial(text))]);
    } catch (error) {
      if (!(error instanceof BadTrialError)) throw error;
      this.#failures.tell({ code: 'bad-trial', detail: error.message }, name);
    }
  }

  /** Reads a file and puts it on the shelf. @returns its id; undefined where it could not be read, which is told */
  async importFile(file: Blob): Promise<string | undefined> {
    this.importing.set(0);
    const thread = this.#newThread((detail) => {
      this.#end(thread);
      this.#failures.tell({ code: 'analysis-ended', detail });
    });
    this.#threads.add(thread);
    const onProgress = proxy((done: number, total: number) => {
      if (this.#threads.has(thread)) this.importing.set(done / Math.max(1, total));
    });
    const outcome = await thread.remote.importFile(file, onProgress);
    this.#end(thread);
    return this.#failures.valueOf(outcome, file instanceof File ? file.name : undefined);
  }

  /** Shows the demo recording that ships with the tool. */
  async importDemo(): Promise<void> {
    const id = await this.#keepDemo(DEMO_FILE);
    if (id !== undefined) await this.#router.navigate(['/stings', id]);
  }

  /** Shows the trial that ships with the tool. */
  async openDemoTrial(): Promise<void> {
    const text = await this.#demoFile(DEMO_TRIAL).then((file) => file?.text());
    if (text !== undefined) await this.#openTrial(text, DEMO_TRIAL);
  }

  /** Puts two recordings on the shelf and holds them against each other. @returns whether they can be */
  async compare(before: Blob, after: Blob): Promise<boolean> {
    return this.#showPair(await this.importFile(before), await this.importFile(after));
  }

  async #showPair(before: string | undefined, after: string | undefined): Promise<boolean> {
    if (before === undefined || after === undefined) return false;
    return this.#router.navigate(['/compare'], { queryParams: { before, after } });
  }

  /** Holds the demo recording against that of the mended app. */
  async compareDemo(): Promise<void> {
    const before = await this.#keepDemo(DEMO_FILE);
    const after = await this.#keepDemo(MENDED_DEMO_FILE);
    await this.#showPair(before, after);
  }

  async #keepDemo(path: string): Promise<string | undefined> {
    const file = await this.#demoFile(path);
    return file === undefined ? undefined : this.importFile(file);
  }

  /** A file of the demo; undefined where it cannot be had, which is told. */
  async #demoFile(path: string): Promise<Blob | undefined> {
    try {
      const answer = await fetch(path);
      if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
      return await answer.blob();
    } catch (error) {
      this.#failures.tell({
        code: 'unexpected',
        detail: `the demo could not be loaded, ${(error as Error).message}`,
      });
      return undefined;
    }
  }

  /** Saves a recording to a file of the user's. */
  async saveFile(id: string): Promise<void> {
    const outcome = await this.#recordings.worker.exportFile(id, this.#preferences.now().saveTexts);
    const file = this.#failures.valueOf(outcome);
    if (file !== undefined) saveBlob(file.blob, file.name);
  }
}
