import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, ownerOf, type RecordedFunction } from '../recording/functions';
import { callsOf, type Recording, type TimeRange } from '../recording/recording';
import { outsideExactCalls, type Outside } from './outside';
import { SegmentList, kindCode } from './segments';

/** Code of a stack whose kind has not been looked up. */
const UNKNOWN_KIND = 255;
/** Code of the engine's own work without a caller on the stack. */
const ALONE = 254;
const NOT_KNOWN = kindCode('unexplained', 'browser', 'inferred');
const MOST_EXPECTED = 4_000_000;

/** Writes the segments of one partition, in order of time. */
class Partitioner {
  readonly #kinds: Uint8Array;
  #next: number;

  constructor(
    private readonly recording: Recording,
    private readonly outside: Outside,
    private readonly segments: SegmentList,
  ) {
    this.#kinds = new Uint8Array(recording.stacks.length).fill(UNKNOWN_KIND);
    this.#next = outside.segments.indexAt(segments.startMs);
  }

  /** Until `endMs` an exact call was the innermost. */
  exact(endMs: number, stack: number): void {
    const kind = this.#kinds[stack]!;
    if (kind < ALONE) this.segments.push(endMs, kind, stack, UNKNOWN_FUNCTION);
    else if (kind === UNKNOWN_KIND) this.#exactFirst(endMs, stack);
    else this.#exactAlone(endMs, stack);
  }

  #exactFirst(endMs: number, stack: number): void {
    const recorded = this.#functionOf(stack);
    const { activity = 'script' } = recorded ?? {};
    const alone = activity !== 'script' && this.recording.stacks.parentOf(stack) === NO_STACK;
    this.#kinds[stack] = alone ? ALONE : kindCode(activity, ownerOf(recorded), 'measured');
    this.exact(endMs, stack);
  }

  #exactAlone(endMs: number, stack: number): void {
    const recorded = this.#functionOf(stack);
    const around = this.outside.around(this.segments.endMs);
    const code = kindCode(recorded?.activity ?? 'other', ownerOf(recorded), 'measured');
    this.segments.push(endMs, code, around.stack, around.entry);
  }

  #functionOf(stack: number): RecordedFunction | undefined {
    return this.recording.functions.get(this.recording.stacks.functionOf(stack));
  }

  /** Until `endMs` there was no exact call: the other sources tell what they can. */
  others(endMs: number): void {
    const { segments: told } = this.outside;
    while (this.segments.endMs < endMs) {
      const fromMs = this.segments.endMs;
      while (this.#next < told.length && told.endOf(this.#next) <= fromMs) this.#next++;
      if (fromMs < told.startMs || this.#next >= told.length) {
        this.segments.push(
          fromMs < told.startMs ? Math.min(told.startMs, endMs) : endMs,
          NOT_KNOWN,
          NO_STACK,
          UNKNOWN_FUNCTION,
        );
        continue;
      }
      told.copyTo(this.segments, this.#next, endMs);
    }
  }
}

/**
 * Covers a range of one thread with segments that do not overlap and sum to it exactly. Where sources
 * disagree the closer look wins: exact calls, then rendering that was timed, then entries into script, then
 * rendering as the engine tells of it, then samples, then busy time as such.
 * Idle is only what a sample saw idle, or where no script was entered though all entries were watched; the rest
 * is unexplained.
 */
export function partition(recording: Recording, thread: number, range: TimeRange): SegmentList {
  const calls = callsOf(recording, thread);
  const within = calls.firstFrom(range.endMs * 1000) - calls.firstFrom(range.startMs * 1000);
  const segments = new SegmentList(range.startMs, Math.min(MOST_EXPECTED, 2 * within + 64));
  const partitioner = new Partitioner(recording, outsideExactCalls(recording, thread), segments);
  calls.innermost(range.startMs, range.endMs, (startMs, endMs, stack) => {
    partitioner.others(startMs);
    partitioner.exact(endMs, stack);
  });
  partitioner.others(range.endMs);
  return segments;
}
