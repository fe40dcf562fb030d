/** So many samples are held at most: what holds them back is a tenth of a millisecond away, by estimate. */
const MAX_HELD = 16;
/** Of more open calls than that it is not compared again and again whether they are the same. */
const MAX_DEPTH = 256;

/**
 * Samples that fell due between two looks, of which the latter was taken right before a call out of rewritten code. Where
 * such a look stands is no chance: it is always the line before the call, however little that did. So they are held until
 * the next look that comes of what was done, and stand where that stands if it is in the same call of the same function;
 * else where the thread stood before the call.
 */
export class HeldSamples {
  readonly #dueMs: number[] = [];
  /** For each, its position in the function. */
  readonly #positions: number[] = [];
  /** Positions of the callers, from index 1 on. */
  #stack = new Int32Array(0);
  #depth = 0;

  /** @param add takes a sample: its time, and the positions of so many open calls, from index 1 on */
  constructor(private readonly add: (atMs: number, calls: Int32Array, depth: number) => void) {}

  hold(dueMs: number, calls: Int32Array): void {
    const depth = calls[0]!;
    if (depth > MAX_DEPTH) {
      this.add(dueMs, calls, depth);
      return;
    }
    if (this.#dueMs.length === MAX_HELD || !this.#isSameCall(calls, depth)) this.release();
    if (this.#dueMs.length === 0) {
      this.#depth = depth;
      this.#stack = calls.slice(0, depth + 1);
    }
    this.#dueMs.push(dueMs);
    this.#positions.push(calls[depth]!);
  }

  /** Has them stand where the thread stands now, where that is in the same call. */
  settle(calls: Int32Array): void {
    if (this.#dueMs.length === 0 || !this.#isSameCall(calls, calls[0]!)) return;
    for (const dueMs of this.#dueMs) this.add(dueMs, calls, this.#depth);
    this.#clear();
  }

  /** Has each stand where the thread stood before the call. */
  release(): void {
    for (let at = 0; at < this.#dueMs.length; at++) {
      this.#stack[this.#depth] = this.#positions[at]!;
      this.add(this.#dueMs[at]!, this.#stack, this.#depth);
    }
    this.#clear();
  }

  #clear(): void {
    this.#dueMs.length = this.#positions.length = 0;
  }

  #isSameCall(calls: Int32Array, depth: number): boolean {
    if (depth !== this.#depth) return false;
    for (let at = 1; at < depth; at++) if (calls[at] !== this.#stack[at]) return false;
    return true;
  }
}
