import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION } from '../recording/functions';
import { closerOf } from '../recording/closer';
import { callsOf, type Recording, type TimeRange } from '../recording/recording';
import { sampledSegments, type SampledSegments } from './sampled-segments';
import { SeenLines } from './seen-lines';
import { untimedCalls, type UntimedCalls } from './untimed-calls';
import { KIND_CODES, SegmentList, kindCode, kindOfCode } from './segments';
import { stackCodes, type StackCodes } from './stack-codes';

const NOT_KNOWN = kindCode('unexplained', 'browser', 'inferred');
const MAX_EXPECTED = 4_000_000;
const IS_SCRIPT = Array.from({ length: KIND_CODES }, (_, code) => kindOfCode(code).activity === 'script');

/** Writes the segments of one partition, in order of time. */
class Partitioner {
  readonly #codes: StackCodes;
  /** Where one function was looked at closer in fine mode: samples know the lines of its calls. */
  readonly #lines: SeenLines | undefined;
  readonly #untimed: ReadonlyMap<number, readonly UntimedCalls[]>;
  #next: number;

  constructor(
    private readonly recording: Recording,
    thread: number,
    private readonly outside: SampledSegments,
    private readonly segments: SegmentList,
  ) {
    this.#codes = stackCodes(recording);
    this.#untimed = untimedCalls(recording, thread);
    this.#lines = closerOf(recording) && new SeenLines(recording, thread);
    this.#next = outside.segments.indexAt(segments.startMs);
  }

  /** Until `endMs` an exact call was the innermost. Work of the engine that nothing called belongs to what ran around it. */
  exact(endMs: number, stack: number): void {
    const code = this.#codes.own[stack]!;
    if (IS_SCRIPT[code] || this.#codes.caller[stack] !== KIND_CODES) {
      this.#known(endMs, code, stack);
      return;
    }
    const around = this.outside.around(this.segments.endMs);
    this.segments.push(endMs, code, around.stack, around.entry);
  }

  /** Of a stretch, what quick functions took whose calls were not timed stands at its beginning. */
  #withUntimed(endMs: number, code: number, stack: number): void {
    const { endMs: startMs } = this.segments;
    for (const { stack: called, share } of this.#untimed.get(stack) ?? []) {
      const calledEndMs = Math.min(endMs, this.segments.endMs + (endMs - startMs) * share);
      this.segments.push(calledEndMs, this.#codes.own[called]!, called, UNKNOWN_FUNCTION);
    }
    this.segments.push(endMs, code, stack, UNKNOWN_FUNCTION);
  }

  #known(endMs: number, code: number, stack: number): void {
    if (this.#lines === undefined) {
      this.#withUntimed(endMs, code, stack);
      return;
    }
    const { stacks } = this.recording;
    const isScript = IS_SCRIPT[code]!;
    this.#lines.pieces(
      this.segments.endMs,
      endMs,
      isScript ? stack : stacks.parentOf(stack),
      (pieceEndMs, seen) => {
        const whole = isScript ? seen : stacks.calledFrom(seen, stacks.functionOf(stack));
        this.segments.push(pieceEndMs, code, whole, UNKNOWN_FUNCTION);
      },
    );
  }

  /** Until `endMs` there was no exact call: the other sources tell what they can. */
  others(endMs: number): void {
    const { segments: outer } = this.outside;
    while (this.segments.endMs < endMs) {
      const fromMs = this.segments.endMs;
      while (this.#next < outer.length && outer.endOf(this.#next) <= fromMs) this.#next++;
      if (fromMs < outer.startMs || this.#next >= outer.length) {
        this.segments.push(
          fromMs < outer.startMs ? Math.min(outer.startMs, endMs) : endMs,
          NOT_KNOWN,
          NO_STACK,
          UNKNOWN_FUNCTION,
        );
        continue;
      }
      outer.copyTo(this.segments, this.#next, endMs);
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
  const segments = new SegmentList(range.startMs, Math.min(MAX_EXPECTED, 2 * within + 64));
  const partitioner = new Partitioner(recording, thread, sampledSegments(recording, thread), segments);
  calls.innermost(range.startMs, range.endMs, (startMs, endMs, stack) => {
    partitioner.others(startMs);
    partitioner.exact(endMs, stack);
  });
  partitioner.others(range.endMs);
  return segments;
}
