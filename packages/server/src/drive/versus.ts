import { mkdir, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import {
  balancedOrder,
  compareLoads,
  fileText,
  isOpen,
  median,
  planLooks,
  readRecording,
  thresholdsOf,
  type LoadComparison,
  type ProxySettings,
  type Recording,
  type Step,
  type VersusRun,
} from '@nettle-patch/core';
import { readRecordingFile } from '../commands/read-recording';
import { writeOut } from '../commands/write-out';
import type { BrowserName } from './local-browsers';
import { recordScript } from './record';

export type Side = 'before' | 'after';

export interface VersusOptions {
  readonly urls: Readonly<Record<Side, URL>>;
  readonly steps: readonly Step[];
  readonly settings: Partial<ProxySettings>;
  readonly browser: BrowserName;
  /** Loads of each side, at most. */
  readonly rounds: number;
  /** Folder the recordings of the loads are kept in; those that are there already are not made again. */
  readonly out?: string | undefined;
  /** Gives numbers from 0 up to 1, for the order of the loads. */
  readonly random?: () => number;
  readonly onLoad?: (progress: LoadProgress) => void;
}

/** How far a versus run has come. */
export interface LoadProgress {
  readonly side: Side;
  /** From 1. */
  readonly round: number;
  /** How long the rest takes if it is not ended before; undefined until a load has been made. Milliseconds. */
  readonly leftMs: number | undefined;
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

/** Makes loads, or takes those that were kept. */
class Loads {
  /** How long the loads took that were made. Milliseconds. */
  readonly #tookMs: number[] = [];

  private constructor(
    private readonly options: VersusOptions,
    private readonly kept: ReadonlySet<string>,
  ) {}

  /** @throws FileError when the folder cannot be used */
  static async of(options: VersusOptions): Promise<Loads> {
    if (options.out === undefined) return new Loads(options, new Set());
    await mkdir(options.out, { recursive: true });
    return new Loads(options, new Set(await readdir(options.out)));
  }

  isKept(side: Side, round: number): boolean {
    return this.kept.has(loadFile(this.options.browser, side, round));
  }

  /** The middle of what loads took; undefined until one was made. */
  get usualMs(): number | undefined {
    return this.#tookMs.length === 0 ? undefined : median(this.#tookMs);
  }

  /** @throws FailedLoadError, BrowserError, FileError */
  async make(side: Side, round: number): Promise<Recording> {
    const { urls, steps, settings, browser, out } = this.options;
    const path = out === undefined ? undefined : join(out, loadFile(browser, side, round));
    if (path !== undefined && this.isKept(side, round))
      return (await readRecordingFile(path, () => undefined)).recording;
    const title = `${LETTERS[side].toUpperCase()}, round ${round}`;
    const beganMs = performance.now();
    const { lines, failure } = await recordScript({
      url: urls[side],
      steps,
      settings,
      browser,
      repeat: 1,
      title,
    });
    if (failure !== undefined) throw new FailedLoadError(`${title}: ${failure.message}`);
    this.#tookMs.push(performance.now() - beganMs);
    const text = fileText(lines);
    if (path !== undefined) await writeOut(path, text);
    return readRecording([new TextEncoder().encode(text)]).recording;
  }
}

/**
 * Holds two addresses against each other: fresh loads of both in turn and in random order, until nothing is left to
 * decide or all rounds are done.
 * @throws FailedLoadError when steps fail; BrowserError when there is no browser to be had; FileError
 */
export async function runVersus(options: VersusOptions): Promise<VersusRun> {
  const { rounds, browser, onLoad } = options;
  const loads = await Loads.of(options);
  const looks = planLooks(rounds);
  const order = balancedOrder(rounds, options.random ?? Math.random);
  const made: Record<Side, Recording[]> = { before: [], after: [] };
  let comparison: LoadComparison | undefined;
  let done = 0;
  while (done < rounds) {
    const round = done + 1;
    for (const side of order.slice(2 * done, 2 * round)) {
      const left = 2 * rounds - made.before.length - made.after.length;
      const { usualMs } = loads;
      onLoad?.({ side, round, leftMs: usualMs === undefined ? undefined : left * usualMs });
      made[side].push(await loads.make(side, round));
    }
    done = round;
    const look = looks.find(({ rounds: at }) => at === done);
    if (look === undefined) continue;
    comparison = compareLoads(made.before, made.after, thresholdsOf(made.after[0]!.header), look.level);
    if (!isOpen(comparison.series)) break;
  }
  const example = { before: made.before[0]!, after: made.after[0]! };
  return { browser, example, comparison: comparison!, planned: rounds, done };
}
