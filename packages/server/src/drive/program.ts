import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { constants, tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { builtPath } from '../assets';
import { BrowserError } from './browser';
import { groupsOf, signalGroups } from './process-groups';

const START_LIMIT_MS = 30_000;
const REMOVAL = { recursive: true, force: true, maxRetries: 5, retryDelay: 200 };
const ENDING = ['SIGINT', 'SIGTERM', 'SIGHUP'] as const;

const running = new Set<Program>();
const profiles = new Set<Profile>();
let isWatching = false;

/** Has programs and profiles end with this process, also where it is told to end and nobody else listens. */
function endWithThisProcess(): void {
  if (isWatching) return;
  isWatching = true;
  process.once('exit', () => {
    for (const program of running) program.end('SIGKILL');
    for (const { folder } of profiles) rmSync(folder, REMOVAL);
  });
  for (const signal of ENDING) {
    process.once(signal, () => {
      if (process.listenerCount(signal) === 0) process.exit(128 + constants.signals[signal]);
    });
  }
}

/** A folder for what a browser keeps of one run. */
export class Profile {
  readonly folder = mkdtempSync(join(tmpdir(), 'nettle-patch-'));

  constructor() {
    endWithThisProcess();
    profiles.add(this);
  }

  async remove(): Promise<void> {
    await rm(this.folder, REMOVAL);
    profiles.delete(this);
  }
}

/** A program that was started, and ends with all it started, at the latest with this process. */
export class Program {
  readonly #process: ChildProcess;
  #output = '';
  #sharing: Worker | undefined;

  constructor(path: string, args: readonly string[], environment: NodeJS.ProcessEnv = {}) {
    endWithThisProcess();
    this.#process = spawn(path, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      detached: true,
      env: { ...process.env, ...environment },
    });
    running.add(this);
    this.#process.once('exit', () => running.delete(this));
    for (const stream of [this.#process.stdout!, this.#process.stderr!]) {
      stream.on('data', (piece: Buffer) => (this.#output = (this.#output + piece.toString()).slice(-20_000)));
    }
  }

  /** Waits until the program has printed what matches. @throws BrowserError */
  async printed(pattern: RegExp): Promise<RegExpExecArray> {
    return this.until(`print ${pattern.source}`, () => pattern.exec(this.#output) ?? undefined);
  }

  /** Waits until something holds, as long as the program runs. @throws BrowserError */
  async until<T>(what: string, look: () => T | Promise<T | undefined> | undefined): Promise<T> {
    const untilMs = Date.now() + START_LIMIT_MS;
    while (Date.now() < untilMs) {
      const found = await look();
      if (found !== undefined) return found;
      if (this.#process.exitCode !== null) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    this.end();
    throw new BrowserError(`${this.#process.spawnfile} did not ${what}:\n${this.#output.slice(-2000)}`);
  }

  /**
   * Has it, and all that it starts, run for one part in `factor` of the time, until it ends; 1 for as usual.
   * @throws BrowserError where the system cannot stop a program and have it go on
   */
  async slow(factor: number): Promise<void> {
    const { pid } = this.#process;
    if (process.platform === 'win32' || pid === undefined)
      throw new BrowserError('this system cannot give a program a share of the processor');
    const before = this.#sharing;
    this.#sharing = undefined;
    await before?.terminate();
    if (before !== undefined) this.#signalAll(groupsOf(pid), 'SIGCONT');
    if (factor <= 1) return;
    this.#sharing = new Worker(builtPath('sharing'), { workerData: { pid, factor } });
    this.#sharing.unref();
  }

  /** @param signal what ends it: a program that is asked to may take its time */
  end(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): void {
    if (this.#process.exitCode !== null || this.#process.pid === undefined) return;
    if (this.#sharing === undefined) return this.#signalAll([this.#process.pid], signal);
    void this.#sharing.terminate();
    const groups = groupsOf(this.#process.pid);
    this.#signalAll(groups, signal);
    // What stands still does not hear that it is to end.
    this.#signalAll(groups, 'SIGCONT');
  }

  #signalAll(groups: readonly number[], signal: NodeJS.Signals): void {
    // A program that has no group of its own is signalled by itself.
    if (signalGroups(groups, signal).includes(this.#process.pid!)) this.#process.kill(signal);
  }
}
