import { fromBase64, toBase64 } from './base64';
import type { RowContent } from './rows';
import { VarintReader, VarintWriter } from './varint';

/** Stack of a sample that found no script running. */
export const NO_STACK = -1;

/** Samples of one thread, in order of time: columns of equal length. */
export interface SampleColumns {
  /** Whole microseconds from the start of the recording. */
  readonly timesUs: ArrayLike<number>;
  /** Stack ids, or NO_STACK. */
  readonly stacks: ArrayLike<number>;
  /** How many samples came of the one measurement that a sample came of: they are as sure as one. 1 of all where absent. */
  readonly together?: ArrayLike<number> | undefined;
}

/** Milliseconds as the whole microseconds that packed chunks count in. */
export function toMicroseconds(ms: number): number {
  return Math.round(ms * 1000);
}

/**
 * Packs samples into one row. For each sample two varints: microseconds since the sample before it (since
 * `startMs` for the first, so 0), and the stack id plus one, where 0 stands for no script. Where samples came together,
 * two further varints for each run of them: its length, and how many came of one measurement.
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
  const count = samples.timesUs.length;
  const together = packTogether(samples.together);
  return {
    thread,
    startMs,
    intervalMs,
    count,
    data: toBase64(writer.bytes()),
    ...(together === undefined ? {} : { together }),
  };
}

/** @returns undefined where all came one by one */
function packTogether(together: ArrayLike<number> | undefined): string | undefined {
  if (together === undefined) return undefined;
  const writer = new VarintWriter();
  let isAlone = true;
  for (let from = 0, to = 0; from < together.length; from = to) {
    const size = together[from]!;
    while (to < together.length && together[to] === size) to++;
    writer.write(to - from);
    writer.write(size);
    isAlone &&= size === 1;
  }
  return isAlone ? undefined : toBase64(writer.bytes());
}

/** @throws RangeError when the data is damaged, or tells of more or fewer samples than `count` */
function unpackTogether(data: string, count: number): number[] {
  const reader = new VarintReader(fromBase64(data));
  const together: number[] = [];
  while (!reader.done) {
    const [length, size] = [reader.read(), reader.read()];
    if (size < 1) throw new RangeError('"together" tells of samples that came of no measurement');
    if (length > count - together.length)
      throw new RangeError(`"together" tells of more samples than the ${count} of the row`);
    for (let sample = 0; sample < length; sample++) together.push(size);
  }
  if (together.length < count)
    throw new RangeError(`"together" tells of ${together.length} samples, "count" says ${count}`);
  return together;
}

/**
 * Unpacks a row of samples into columns of equal length.
 * @returns `together` only where the row has it
 * @throws RangeError when the data is damaged or does not hold `count` samples. Nothing is allocated from the
 * count alone, so a false one cannot exhaust memory.
 */
export function unpackSamples(row: RowContent<'samples'>): {
  timesUs: number[];
  stacks: number[];
  together?: number[];
} {
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
  if (row.together === undefined) return { timesUs, stacks };
  return { timesUs, stacks, together: unpackTogether(row.together, row.count) };
}
