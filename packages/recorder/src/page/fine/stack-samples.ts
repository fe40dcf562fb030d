import { LOOK_COUNTDOWN, OPEN_CALLS_LENGTH } from '@nettle-patch/core';

/** A sample stands for this long. Milliseconds. */
export const FINE_INTERVAL_MS = 1;
/** Of a stack that is deeper, the middle is left out: a recursion without end would else fill the recording by itself. */
const MAX_DEPTH = 1024;
const OUTERMOST = 256;
/** Entries a chunk of samples holds at most: the deepest stack there is fits. */
const CHUNK_ENTRIES = OPEN_CALLS_LENGTH;

/** Samples of one thread: each its time, the number of open calls, and where each of them stood. */
export interface LookSamples {
  /** By `performance.now()`. */
  readonly timesMs: Float64Array<ArrayBuffer>;
  /** For each sample the number of positions, then these, the outermost first; or SAME for those of the one before. */
  readonly stacks: Int32Array<ArrayBuffer>;
  /** For each sample, how many came of the measurement that it came of; undefined where all came one by one. */
  readonly together?: Uint32Array | undefined;
}

/** In place of the positions of a sample: they are those of the sample before. */
export const SAME = -1;

/** Writes samples down, a stack that is that of the sample before only once, and hands them on in chunks. */
export class StackSamples {
  #times = new Float64Array(0);
  #stacks = new Int32Array(0);
  #together = new Uint32Array(0);
  #sampled = 0;
  #filled = 0;
  /** Where the latest stack stands in the chunk; -1 where there is none. */
  #latestAt = -1;

  /** @param take gets each chunk that is full, or handed over */
  constructor(private readonly take: (samples: LookSamples) => void) {}

  /**
   * @param calls positions of the open calls, from index 1 on
   * @param open how many are open; those nested deeper than there is room for are left out
   * @param together how many samples come of the same measurement
   */
  add(atMs: number, calls: Int32Array, open: number, together = 1): void {
    const depth = Math.min(open, LOOK_COUNTDOWN - 1);
    if (depth > MAX_DEPTH) {
      const shortened = new Int32Array(MAX_DEPTH + 1);
      shortened.set(calls.subarray(0, OUTERMOST + 1));
      shortened.set(calls.subarray(depth + 1 - (MAX_DEPTH - OUTERMOST), depth + 1), OUTERMOST + 1);
      this.add(atMs, shortened, MAX_DEPTH, together);
      return;
    }
    if (this.#filled + depth + 1 > this.#stacks.length) this.#makeRoom();
    this.#together[this.#sampled] = together;
    this.#times[this.#sampled++] = atMs;
    if (this.#isLatest(calls, depth)) {
      this.#stacks[this.#filled++] = SAME;
      return;
    }
    this.#latestAt = this.#filled;
    this.#stacks[this.#filled++] = depth;
    for (let at = 1; at <= depth; at++) this.#stacks[this.#filled++] = calls[at]!;
  }

  handOver(): void {
    const together = this.#together.slice(0, this.#sampled);
    if (this.#sampled > 0)
      this.take({
        timesMs: this.#times.slice(0, this.#sampled),
        stacks: this.#stacks.slice(0, this.#filled),
        together: together.some((size) => size > 1) ? together : undefined,
      });
    this.#sampled = this.#filled = 0;
    this.#latestAt = -1;
  }

  /** Each sample has an entry of its own at least, so there is room for as many times. */
  #makeRoom(): void {
    this.handOver();
    if (this.#stacks.length > 0) return;
    this.#times = new Float64Array(CHUNK_ENTRIES);
    this.#stacks = new Int32Array(CHUNK_ENTRIES);
    this.#together = new Uint32Array(CHUNK_ENTRIES);
  }

  #isLatest(calls: Int32Array, depth: number): boolean {
    const latestAt = this.#latestAt;
    if (latestAt < 0 || this.#stacks[latestAt] !== depth) return false;
    for (let at = 1; at <= depth; at++) if (this.#stacks[latestAt + at] !== calls[at]) return false;
    return true;
  }
}
