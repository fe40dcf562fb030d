import { LOOK_COUNTDOWN, MAIN_THREAD } from '@nettle-patch/core';
import type { OfThread } from '../messages';
import { FINE_INTERVAL_MS, SAME, type LookSamples } from '../page/fine/look-sampler';

/** Samples of a thread are handed on so often. */
const HAND_OVER_MS = 100;

/** A thread whose open calls can be seen. */
interface SeenThread extends OfThread {
  readonly calls: Int32Array<ArrayBufferLike>;
  timesMs: number[];
  stacks: number[];
  /** Where the positions of its latest sample stand in `stacks`; -1 where there are none. */
  latestAt: number;
  /** Whether nothing ran when it was looked at last. */
  isIdle: boolean;
}

/**
 * Takes samples of threads whose open calls lie in shared memory, each millisecond, from a thread that waits in between:
 * so an endless loop and a long call into the engine are seen while they last.
 */
export class SharedSampler {
  readonly #threads = new Map<number, SeenThread>();
  readonly #sleep = new Int32Array(new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT));
  readonly #turn = new MessageChannel();
  #isTurning = false;
  #handedOverMs = 0;

  /** @param take gets the samples of a thread, with times by this worker's `performance.now()` and its origin of them */
  constructor(private readonly take: (samples: OfThread & LookSamples) => void) {
    this.#turn.port1.onmessage = () => this.#next();
  }

  /**
   * Begins to sample a thread, by the way it was told of last.
   * @param originMs what this worker's clock showed at time 0 of the recording
   */
  see(recordingId: string, thread: number, originMs: number, calls: Int32Array<ArrayBufferLike>): void {
    this.#handOver();
    this.#threads.set(thread, {
      recordingId,
      thread,
      originMs,
      calls,
      timesMs: [],
      stacks: [],
      latestAt: -1,
      isIdle: false,
    });
    if (this.#isTurning) return;
    this.#isTurning = true;
    this.#turn.port2.postMessage(null);
  }

  /** Ends sampling. */
  end(): void {
    this.#handOver();
    this.#threads.clear();
  }

  /** Where the calls of the main thread stand now, the outermost first; undefined where that cannot be seen. */
  openCalls(): readonly number[] | undefined {
    const thread = this.#threads.get(MAIN_THREAD);
    if (thread === undefined) return undefined;
    const depth = Math.max(0, Math.min(Atomics.load(thread.calls, 0), LOOK_COUNTDOWN - 1));
    return Array.from(thread.calls.subarray(1, depth + 1));
  }

  #next(): void {
    if (this.#threads.size === 0) {
      this.#isTurning = false;
      return;
    }
    Atomics.wait(this.#sleep, 0, 0, FINE_INTERVAL_MS);
    const ms = performance.now();
    for (const thread of this.#threads.values()) sample(thread, ms);
    if (ms - this.#handedOverMs >= HAND_OVER_MS) this.#handOver();
    this.#turn.port2.postMessage(null);
  }

  #handOver(): void {
    this.#handedOverMs = performance.now();
    for (const thread of this.#threads.values()) {
      const { recordingId, originMs, timesMs, stacks } = thread;
      if (timesMs.length === 0) continue;
      this.take({
        recordingId,
        thread: thread.thread,
        originMs,
        timesMs: Float64Array.from(timesMs),
        stacks: Int32Array.from(stacks),
      });
      thread.timesMs = [];
      thread.stacks = [];
      thread.latestAt = -1;
    }
  }
}

/** Takes one sample; of a thread in which nothing runs only the first. */
function sample(thread: SeenThread, ms: number): void {
  const { calls, timesMs, stacks, latestAt } = thread;
  // One right after the other: by the time that anything else is done the thread may stand elsewhere.
  const depth = calls[0]!;
  const innermost = calls[depth]!;
  if (depth < 0 || depth >= LOOK_COUNTDOWN || (depth === 0 && thread.isIdle)) return;
  thread.isIdle = depth === 0;
  const isLatest =
    latestAt >= 0 &&
    stacks[latestAt] === depth &&
    depth > 0 &&
    stacks[latestAt + depth] === innermost &&
    isSame(calls, stacks, latestAt, depth - 1);
  timesMs.push(ms);
  if (isLatest) {
    stacks.push(SAME);
    return;
  }
  thread.latestAt = stacks.length;
  stacks.push(depth);
  for (let at = 1; at < depth; at++) stacks.push(calls[at]!);
  if (depth > 0) stacks.push(innermost);
}

function isSame(calls: Int32Array, stacks: readonly number[], latestAt: number, depth: number): boolean {
  for (let at = 1; at <= depth; at++) if (stacks[latestAt + at] !== calls[at]) return false;
  return true;
}
