import { mkdir, readFile, readdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import {
  fileText,
  median,
  readRecording,
  type ProxySettings,
  type Recording,
  type Step,
} from '@nettle-patch/core';
import { object } from 'yup';
import { readJson } from '../commands/read-json';
import { FileError, readRecordingFile } from '../commands/read-recording';
import { writeOut } from '../commands/write-out';
import type { BrowserName } from './local-browsers';
import { recordScript } from './record';
import { isBreakdown } from './webdriver';

/** How far a versus run has come. */
export interface LoadProgress {
  readonly side: Side;
  /** From 1. */
  readonly round: number;
  /** How long the rest takes if it is not ended before; undefined until a load has been made. Milliseconds. */
  readonly leftMs: number | undefined;
  /** Where it is made again since the browser broke: how. */
  readonly brokenBy?: string;
}

export type Side = 'before' | 'after';

export interface VersusOptions {
  readonly urls: Readonly<Record<Side, URL>>;
  readonly steps: readonly Step[];
  readonly settings: Partial<ProxySettings>;
  readonly browser: BrowserName;
  /** Loads of each side, at most. */
  readonly rounds: number;
  /** How many times slower the browser is to run; as it is where absent. */
  readonly slow?: number | undefined;
  /** What the recordings of the loads are called before their side and round. */
  readonly title?: string | undefined;
  /** Folder the recordings of the loads are kept in; those that are there already are not made again. */
  readonly out?: string | undefined;
  /** Gives numbers from 0 up to 1, for the order of the loads. */
  readonly random?: () => number;
  readonly onLoad?: (progress: LoadProgress) => void;
  /** Ends it early. */
  readonly signal?: AbortSignal;
}

/** Thrown where the steps could not be taken in a load. */
export class FailedLoadError extends Error {
  override readonly name = 'FailedLoadError';
}

const LETTERS: Readonly<Record<Side, string>> = { before: 'a', after: 'b' };

/** Name of the file that a load is kept in. */
export function loadFile(browser: string, side: Side, round: number): string {
  return `${browser}-${LETTERS[side]}-${String(round).padStart(2, '0')}.nettle.jsonl.gz`;
}

const zipped = promisify(gzip);
const PLAN = 'versus.json';
const planSchema = object().required();

/** What loads must have in common, so that those of an earlier run may stand for those of this one. */
const planOf = ({ urls, steps, settings, slow }: VersusOptions) => ({
  a: urls.before.href,
  b: urls.after.href,
  mode: settings.mode ?? 'everyday',
  slow: slow ?? 1,
  steps,
});

/**
 * Notes beside the loads what they are of, and refuses those of another run.
 * @throws FileError saying what differs
 */
async function checkPlan(options: VersusOptions, names: readonly string[]): Promise<void> {
  const path = join(options.out!, PLAN);
  const plan = planOf(options);
  if (!names.includes(PLAN)) return writeOut(path, `${JSON.stringify(plan, null, 2)}\n`);
  const kept = await readJson(
    path,
    (given) => planSchema.validateSync(given) as Readonly<Record<string, unknown>>,
  );
  const differing = Object.entries(plan).filter(
    ([name, value]) => JSON.stringify(kept[name]) !== JSON.stringify(value),
  );
  if (differing.length === 0) return;
  const [name, value] = differing[0]!;
  const words =
    name === 'steps' ? 'other steps' : `${name} was ${String(kept[name])}, and is ${String(value)} now`;
  throw new FileError(
    `--out: ${options.out} holds loads of another run (${words}). Give another folder, or empty this one.`,
  );
}

/** A load is made once more where the browser breaks: that says nothing of the page, and would end the whole run. */
const TRIES = 2;

/** Makes loads, or takes those that were kept. */
export class Loads {
  /** How long the loads took that were made. Milliseconds. */
  readonly #tookMs: number[] = [];
  /** The texts of those that were made and not kept, by their names. */
  readonly #texts = new Map<string, string>();

  private constructor(
    private readonly options: VersusOptions,
    private readonly kept: ReadonlySet<string>,
    private readonly record: typeof recordScript,
  ) {}

  /** @throws FileError when the folder cannot be used */
  static async of(options: VersusOptions, record = recordScript): Promise<Loads> {
    if (options.out === undefined) return new Loads(options, new Set(), record);
    let names: string[];
    try {
      await mkdir(options.out, { recursive: true });
      names = await readdir(options.out);
    } catch (error) {
      throw new FileError(
        `--out: ${options.out} is no folder that can be written to: ${(error as Error).message}`,
      );
    }
    await checkPlan(options, names);
    return new Loads(options, new Set(names), record);
  }

  isKept(side: Side, round: number): boolean {
    return this.kept.has(loadFile(this.options.browser, side, round));
  }

  /** A load that was made or kept, as a file: a compressed recording. */
  async fileOf(side: Side, round: number): Promise<Uint8Array> {
    const { browser, out } = this.options;
    const name = loadFile(browser, side, round);
    return out === undefined ? zipped(this.#texts.get(name)!) : readFile(join(out, name));
  }

  /**
   * @param left how many loads are still to be made, with this one, as is told
   * @throws FailedLoadError, BrowserError, FileError
   */
  async make(side: Side, round: number, left: number): Promise<Recording> {
    const usualMs = this.#tookMs.length === 0 ? undefined : median(this.#tookMs);
    const progress = { side, round, leftMs: usualMs === undefined ? undefined : left * usualMs };
    this.options.onLoad?.(progress);
    const { browser, out } = this.options;
    const name = loadFile(browser, side, round);
    const path = out === undefined ? undefined : join(out, name);
    if (path !== undefined && this.isKept(side, round))
      return (await readRecordingFile(path, () => undefined)).recording;
    const text = fileText(await this.#made(progress));
    if (path === undefined) this.#texts.set(name, text);
    else {
      // A run that is cut leaves no file that is cut.
      const part = join(out!, `part-${name}`);
      await writeOut(part, text);
      await rename(part, path);
    }
    return readRecording([new TextEncoder().encode(text)]).recording;
  }

  /** @returns the lines of a load that came to its end */
  async #made(progress: LoadProgress): Promise<string[]> {
    const { urls, steps, settings, browser, slow, signal, title, onLoad } = this.options;
    const load = `${LETTERS[progress.side].toUpperCase()}, round ${progress.round}`;
    for (let tried = 1; ; tried++) {
      const beganMs = performance.now();
      const { lines, failure } = await this.record({
        url: urls[progress.side],
        steps,
        settings,
        browser,
        repeat: 1,
        slow,
        title: title === undefined ? load : `${title}: ${load}`,
        ...(signal === undefined ? {} : { signal }),
      });
      if (failure === undefined) {
        this.#tookMs.push(performance.now() - beganMs);
        return lines;
      }
      if (tried === TRIES || !isBreakdown(failure.cause))
        throw new FailedLoadError(`${load}: ${failure.message}`);
      onLoad?.({ ...progress, brokenBy: failure.message });
    }
  }
}
