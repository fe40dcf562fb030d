import { NO_STACK, packSamples } from '@nettle-patch/core';
import type { EmittedRow } from '../../../../docs/reference-emitter.mjs';
import { functionId, lineOf, type CodeName } from './code';

/** How often the phone looks at what its threads run. Milliseconds. */
const SAMPLE_MS = 1;
const US = 1000;

/** A stretch of work of one thread: who called whom, from the outermost, and for how long. */
export interface Work {
  readonly path: readonly CodeName[];
  readonly ms: number;
}

/** Takes down what the phone's threads do, as rows of a recording. */
export class Tape {
  #rows: EmittedRow[] = [];
  readonly #stacks = new Map<string, number>();

  add(...rows: EmittedRow[]): void {
    this.#rows.push(...rows);
  }

  /** Rows since the last call. */
  take(): EmittedRow[] {
    const rows = this.#rows;
    this.#rows = [];
    return rows;
  }

  /** Samples of a thread while it does one piece of work after the other. @returns when it is done */
  work(thread: number, startMs: number, pieces: readonly Work[]): number {
    const timesUs: number[] = [];
    const stacks: number[] = [];
    let atMs = startMs;
    let nextMs = startMs + SAMPLE_MS / 2;
    for (const { path, ms } of pieces) {
      const stack = this.#stack(path);
      for (atMs += ms; nextMs < atMs; nextMs += SAMPLE_MS) {
        timesUs.push(Math.round(nextMs * US));
        stacks.push(stack);
      }
    }
    timesUs.push(Math.round(nextMs * US));
    stacks.push(NO_STACK);
    this.add({ kind: 'samples', ...packSamples(thread, SAMPLE_MS, { timesUs, stacks }) });
    return atMs;
  }

  #stack(path: readonly CodeName[]): number {
    let parent: number | undefined;
    path.forEach((name, depth) => {
      const key = path.slice(0, depth + 1).join('>');
      let id = this.#stacks.get(key);
      if (id === undefined) {
        id = this.#stacks.size;
        this.#stacks.set(key, id);
        this.add({
          kind: 'stack',
          id,
          function: functionId(name),
          ...(parent === undefined ? {} : { parent }),
          ...(lineOf(name) === undefined ? {} : { line: lineOf(name) }),
        });
      }
      parent = id;
    });
    return parent!;
  }
}
