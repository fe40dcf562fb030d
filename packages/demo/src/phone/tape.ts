import {
  NO_STACK,
  countsRow,
  samplesRow,
  type EmittedRow,
  type EmittedSample,
} from '../../../../docs/reference-emitter.mjs';
import { functionId, placeOf, type CodeName } from './code';

/** How often the phone looks at what its threads run. Milliseconds. */
const SAMPLE_MS = 1;
const US = 1000;
const SECOND_MS = 1000;

/** A stretch of work of one thread: who called whom, from the outermost, and for how long. */
export interface Work {
  readonly path: readonly CodeName[];
  readonly ms: number;
  /** How often the innermost function was called in it: once where it is not told, 0 where an earlier call goes on. */
  readonly calls?: number;
}

/** How often each function of a thread was called in a second. */
interface CountedSecond {
  readonly thread: number;
  readonly startMs: number;
  readonly counts: Map<number, number>;
}

/** Takes down what the phone's threads do, as rows of a recording. */
export class Tape {
  #rows: EmittedRow[] = [];
  readonly #stacks = new Map<string, number>();
  /** By thread and second. */
  readonly #counted = new Map<string, CountedSecond>();

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
    const samples: EmittedSample[] = [];
    let atMs = startMs;
    let nextMs = startMs + SAMPLE_MS / 2;
    const see = (stack: number) => samples.push({ timeUs: Math.round(nextMs * US), stack });
    const innermost = new Set(pieces.map(({ path }) => path.at(-1)!));
    for (const name of pieces[0]!.path) if (!innermost.has(name)) this.#called(thread, atMs, name, 1);
    for (const { path, ms, calls = 1 } of pieces) {
      this.#called(thread, atMs, path.at(-1)!, calls);
      const stack = this.#stack(path);
      for (atMs += ms; nextMs < atMs; nextMs += SAMPLE_MS) see(stack);
    }
    see(NO_STACK);
    this.add(samplesRow(thread, SAMPLE_MS, samples));
    return atMs;
  }

  /** Tells how often functions were called in each second since the last time. */
  tellCounts(): void {
    for (const { thread, startMs, counts } of this.#counted.values())
      this.add(countsRow(thread, startMs, SECOND_MS, counts));
    this.#counted.clear();
  }

  #called(thread: number, ms: number, name: CodeName, calls: number): void {
    const startMs = Math.floor(ms / SECOND_MS) * SECOND_MS;
    const key = `${thread} ${startMs}`;
    const { counts } = this.#counted.get(key) ?? { counts: new Map<number, number>() };
    this.#counted.set(key, { thread, startMs, counts });
    const id = functionId(name);
    counts.set(id, (counts.get(id) ?? 0) + calls);
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
          ...placeOf(name),
        });
      }
      parent = id;
    });
    return parent!;
  }
}
