import { LOOK_COUNTDOWN, MAIN_THREAD, OPEN_CALLS_LENGTH } from '@nettle-patch/core';
import type { OfThread } from '../messages';
import { FINE_INTERVAL_MS, StackSamples, type LookSamples } from '../page/fine/stack-samples';

/** Samples of a thread are handed on so often. */
const HAND_OVER_MS = 100;

/**
 * So many timers run in turn, as a browser lets one go off every 4 ms at most. Messages to itself would go off at once, but
 * one engine passes them through the page's thread, where they wait as long as that is busy.
 */
const TIMERS = 5;

/** A thread whose open calls can be seen. */
interface SeenThread {
  readonly calls: Int32Array<ArrayBufferLike>;
  readonly samples: StackSamples;
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
  #timers = 0;
  #sampledMs = 0;
  #handedOverMs = 0;

  /** @param take gets the samples of a thread, with times by this worker's `performance.now()` and its origin of them */
  constructor(private readonly take: (samples: OfThread & LookSamples) => void) {}

  /**
   * Begins to sample a thread, by the way it was told of last.
   * @param originMs what this worker's clock showed at time 0 of the recording
   */
  see(recordingId: string, thread: number, originMs: number, calls: Int32Array<ArrayBufferLike>): void {
    this.#handOver();
    const samples = new StackSamples((taken) => this.take({ recordingId, thread, originMs, ...taken }));
    this.#threads.set(thread, { calls, samples, isIdle: false });
    for (; this.#timers < TIMERS; this.#timers++) setTimeout(() => this.#next(), this.#timers);
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
      this.#timers--;
      return;
    }
    const restMs = this.#sampledMs + FINE_INTERVAL_MS - performance.now();
    if (restMs > 0) Atomics.wait(this.#sleep, 0, 0, restMs);
    const ms = performance.now();
    this.#sampledMs = ms;
    for (const thread of this.#threads.values()) sample(thread, ms);
    if (ms - this.#handedOverMs >= HAND_OVER_MS) this.#handOver();
    setTimeout(() => this.#next(), 0);
  }

  #handOver(): void {
    this.#handedOverMs = performance.now();
    for (const { samples } of this.#threads.values()) samples.handOver();
  }
}

/** The open calls of a thread as they stood when it was looked at. */
const seen = new Int32Array(OPEN_CALLS_LENGTH);

/** Takes one sample; of a thread in which nothing runs only the first. */
function sample(thread: SeenThread, ms: number): void {
  const { calls, samples } = thread;
  // One right after the other: by the time that anything else is done the thread may stand elsewhere.
  const depth = calls[0]!;
  const innermost = calls[depth]!;
  if (depth < 0 || depth >= LOOK_COUNTDOWN || (depth === 0 && thread.isIdle)) return;
  thread.isIdle = depth === 0;
  for (let at = 1; at < depth; at++) seen[at] = calls[at]!;
  seen[depth] = innermost;
  samples.add(ms, seen, depth);
}
