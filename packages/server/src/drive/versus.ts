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
import { FileError, readRecordingFile } from '../commands/read-recording';
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
  /** How many times slower the browser is to run; as it is where absent. */
  readonly slow?: number | undefined;
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
    try {
      await mkdir(options.out, { recursive: true });
      return new Loads(options, new Set(await readdir(options.out)));
    } catch (error) {
      throw new FileError(
        `--out: ${options.out} is no folder that can be written to: ${(error as Error).message}`,
      );
    }
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
    const { urls, steps, settings, browser, slow, out } = this.options;
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
      slow,
      title,
    });
    if (failure !== undefined) throw new FailedLoadError(`${title}: ${failure.message}`);
    this.#tookMs.push(performance.now() - beganMs);
    const text = fileText(lines);
    if (path !== undefined) await writeOut(path, text);
    return readRecording([new TextEncoder().encode(text)]).recording;
  }
}

/** All loads of one address in turn, and then all of the other: two versions that stand at one address. */
export interface VersusByChange {
  /** One for each browser. */
  readonly all: readonly VersusOptions[];
  /** Settles when the other version is there. */
  readonly changed: () => Promise<void>;
}

/** What loads that were not made in turn leave open. */
export const NOT_IN_TURN =
  'All loads of A were made before those of B, as both stand at one address: what changed on this machine meanwhile is not controlled for.';

/**
 * Holds two versions of one address against each other: all loads of the one in each browser, then all of the other.
 * @throws FailedLoadError, BrowserError, FileError
 */
export async function runVersusByChange({ all, changed }: VersusByChange): Promise<VersusRun[]> {
  const makers = await Promise.all(all.map((options) => Loads.of(options)));
  const made = all.map((): Record<Side, Recording[]> => ({ before: [], after: [] }));
  const makeAll = async (side: Side) => {
    for (const [at, { rounds, onLoad }] of all.entries()) {
      for (let round = 1; round <= rounds; round++) {
        const { usualMs } = makers[at]!;
        const left = rounds - round + 1 + (side === 'before' ? rounds : 0);
        onLoad?.({ side, round, leftMs: usualMs === undefined ? undefined : left * usualMs });
        made[at]![side].push(await makers[at]!.make(side, round));
      }
    }
  };
  await makeAll('before');
  await changed();
  await makeAll('after');
  return all.map(({ browser, rounds }, at): VersusRun => {
    const { before, after } = made[at]!;
    const comparison = compareLoads(before, after, thresholdsOf(after[0]!.header));
    return {
      browser,
      example: { before: before[0]!, after: after[0]! },
      comparison,
      planned: rounds,
      done: rounds,
      inTurn: false,
    };
  });
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
  return { browser, example, comparison: comparison!, planned: rounds, done, inTurn: true };
}
