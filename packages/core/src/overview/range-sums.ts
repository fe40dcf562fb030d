import { partition } from '../attribution/partition';
import { breakdownOf, type TimeBreakdown } from '../attribution/time-breakdown';
import { culpritsOf, type Culprit } from '../explanation/culprits';
import type { Thresholds } from '../format/thresholds';
import { interactionsOf, type Interaction } from '../inputs/interactions';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { frameTimes } from '../stings/frame-times';
import { elementRedraws, type ElementRedraws } from './element-redraws';

/** Inputs that began in a range, held against the budget of an answer. */
export interface InputSums {
  readonly count: number;
  /** Those that took longer than the budget. */
  readonly over: number;
  readonly budgetMs: number;
  /** The one that was felt longest, of those whose delay is known. */
  readonly worst: Interaction | undefined;
}

/** Frames whose picture came in a range, held against the display. */
export interface FrameSums {
  readonly count: number;
  /** Those in whose time the display could have shown at least another. */
  readonly late: number;
  /** Pictures the display could have shown and did not get. */
  readonly missed: number;
  readonly budgetMs: number;
  readonly longestMs: number;
}

/** Requests that were on their way in a range. */
export interface RequestSums {
  readonly count: number;
  /** Those of them that failed: an HTTP status of 400 and above. */
  readonly failed: number;
  /** On the wire, as far as it is known. */
  readonly bytes: number;
  readonly longest: { readonly url: string; readonly durationMs: number } | undefined;
}

/** Memory of script in a range. */
export interface MemorySums {
  /** In use when it was read first and last there, in bytes; undefined where it was not read. */
  readonly firstBytes: number | undefined;
  readonly lastBytes: number | undefined;
  readonly collections: number;
  /** How long the thread stood still for them, as far as it is told. Milliseconds. */
  readonly collectedMs: number;
}

/** The sum of a range of one thread. */
export interface RangeSums extends TimeRange {
  readonly thread: number;
  /** Sums to the range, idle and unexplained included. */
  readonly kinds: TimeBreakdown;
  /** Functions by the time charged to them: of own ones their own and that of libraries they called, else of libraries. */
  readonly functions: readonly Culprit[];
  readonly inputs: InputSums;
  readonly frames: FrameSums;
  readonly requests: RequestSums;
  /** By element, those with the most redraws first. */
  readonly redraws: readonly ElementRedraws[];
  readonly memory: MemorySums;
}

const isWithin = (ms: number, { startMs, endMs }: TimeRange) => ms >= startMs && ms < endMs;

function inputSums(recording: Recording, thread: number, range: TimeRange, budgetMs: number): InputSums {
  const inputs = interactionsOf(recording).filter(
    (one) => one.thread === thread && isWithin(one.startMs, range),
  );
  let worst: Interaction | undefined;
  for (const one of inputs) if (one.measured && one.feltMs > (worst?.feltMs ?? 0)) worst = one;
  const over = inputs.filter(({ measured, feltMs }) => measured && feltMs > budgetMs).length;
  return { count: inputs.length, over, budgetMs, worst };
}

function frameSums(recording: Recording, thread: number, range: TimeRange): FrameSums {
  const frames = frameTimes(recording, thread).filter(({ endMs }) => isWithin(endMs, range));
  return {
    count: frames.length,
    late: frames.filter(({ missed }) => missed > 0).length,
    missed: frames.reduce((sum, { missed }) => sum + missed, 0),
    budgetMs: recording.header.refreshMs,
    longestMs: frames.reduce((most, { startMs, endMs }) => Math.max(most, endMs - startMs), 0),
  };
}

function requestSums(recording: Recording, { startMs, endMs }: TimeRange): RequestSums {
  const sums = { count: 0, failed: 0, bytes: 0 };
  let longest: RequestSums['longest'];
  for (const { url, durationMs, bytes = 0, status = 0 } of recording.events.request.overlapping(
    startMs,
    endMs,
  )) {
    sums.count++;
    sums.bytes += bytes;
    if (status >= 400) sums.failed++;
    if (durationMs > (longest?.durationMs ?? 0)) longest = { url, durationMs };
  }
  return { ...sums, longest };
}

const KIB = 1024;

function memorySums(
  { events: { memory, collection } }: Recording,
  thread: number,
  { startMs, endMs }: TimeRange,
): MemorySums {
  const read = [...memory.beginning(startMs, endMs)].filter((row) => row.thread === thread);
  const collected = [...collection.beginning(startMs, endMs)].filter((row) => row.thread === thread);
  const bytesOf = (row: (typeof read)[number] | undefined) => row && row.usedKb * KIB;
  return {
    firstBytes: bytesOf(read[0]),
    lastBytes: bytesOf(read.at(-1)),
    collections: collected.length,
    collectedMs: collected.reduce((sum, { durationMs = 0 }) => sum + durationMs, 0),
  };
}

/**
 * What went on in a range of one thread, summed.
 * @param range what lies outside of the recording is left out
 */
export function rangeSums(
  recording: Recording,
  wanted: TimeRange,
  { responseMs }: Pick<Thresholds, 'responseMs'>,
  thread: number = MAIN_THREAD,
): RangeSums {
  const startMs = Math.min(Math.max(wanted.startMs, recording.range.startMs), recording.range.endMs);
  const range = { startMs, endMs: Math.max(startMs, Math.min(wanted.endMs, recording.range.endMs)) };
  const segments = partition(recording, thread, range);
  return {
    ...range,
    thread,
    kinds: breakdownOf(segments),
    functions: culpritsOf(recording, segments),
    inputs: inputSums(recording, thread, range, responseMs),
    frames: frameSums(recording, thread, range),
    requests: requestSums(recording, range),
    redraws: elementRedraws(recording, thread, range),
    memory: memorySums(recording, thread, range),
  };
}
