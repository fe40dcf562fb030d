import { fromBase64, toBase64 } from './base64';
import type { RowContent } from './rows';
import { VarintReader, VarintWriter } from './varint';

/** Stack of a sample that found no script running. */
export const NO_STACK = -1;

/** Samples of one thread, in order of time: two columns of equal length. */
export interface SampleColumns {
  /** Whole microseconds from the start of the recording. */
  readonly timesUs: ArrayLike<number>;
  /** Stack ids, or NO_STACK. */
  readonly stacks: ArrayLike<number>;
}

/** Milliseconds as the whole microseconds that packed chunks count in. */
export function toMicroseconds(ms: number): number {
  return Math.round(ms * 1000);
}

/**
 * Packs samples into one row. For each sample two varints: microseconds since the sample before it (since
 * `startMs` for the first, so 0), and the stack id plus one, where 0 stands for no script.
 */
export function packSamples(
  thread: number,
  intervalMs: number,
  samples: SampleColumns,
): RowContent<'samples'> {
  const writer = new VarintWriter();
  let before = samples.timesUs[0] ?? 0;
  const startMs = before / 1000;
  for (let index = 0; index < samples.timesUs.length; index++) {
    const timeUs = samples.timesUs[index]!;
    writer.write(timeUs - before);
    writer.write(samples.stacks[index]! + 1);
    before = timeUs;
  }
  return { thread, startMs, intervalMs, count: samples.timesUs.length, data: toBase64(writer.bytes()) };
}

/**
 * Unpacks a row of samples into two columns of equal length.
 * @throws RangeError when the data is damaged or does not hold `count` samples. Nothing is allocated from the
 * count alone, so a false one cannot exhaust memory.
 */
export function unpackSamples(row: RowContent<'samples'>): { timesUs: number[]; stacks: number[] } {
  const reader = new VarintReader(fromBase64(row.data));
  const timesUs: number[] = [];
  const stacks: number[] = [];
  let timeUs = toMicroseconds(row.startMs);
  while (!reader.done) {
    timeUs += reader.read();
    timesUs.push(timeUs);
    stacks.push(reader.read() - 1);
  }
  if (timesUs.length !== row.count) {
    throw new RangeError(`packed data holds ${timesUs.length} samples, "count" says ${row.count}`);
  }
  return { timesUs, stacks };
}
