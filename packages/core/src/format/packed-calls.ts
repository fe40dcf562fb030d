import { fromBase64, toBase64 } from './base64';
import { toMicroseconds } from './packed-samples';
import type { RowContent } from './rows';

/** Two varints of a whole number that a double can hold. */
const MOST_BYTES_AN_EVENT = 16;

/** Stands for the end of the innermost call among the events of a chunk. */
export const CALL_END = -1;

/** Calls of one thread as events in order of time: two columns of equal length. */
export interface CallEvents {
  /** Whole microseconds from the start of the recording. */
  readonly timesUs: ArrayLike<number>;
  /** Id of the function that was called, or CALL_END. */
  readonly functions: ArrayLike<number>;
}

/**
 * Packs call events into one row. For each event a varint: microseconds since the event before it (since
 * `startMs` for the first, so 0) times two, plus one where a call begins; after that one, a varint with the
 * id of the function less the row's `base`, which is the least of them.
 * @param events in order of time
 */
export function packCalls(thread: number, events: CallEvents): RowContent<'calls'> {
  const { timesUs, functions } = events;
  const count = timesUs.length;
  let base = Infinity;
  for (let at = 0; at < count; at++) if (functions[at]! >= 0) base = Math.min(base, functions[at]!);
  if (base === Infinity) base = 0;
  const bytes = new Uint8Array(count * MOST_BYTES_AN_EVENT);
  const firstUs = timesUs[0] ?? 0;
  let before = firstUs;
  let length = 0;
  const write = (value: number) => {
    let rest = value;
    for (; rest >= 0x80; rest = Math.floor(rest / 0x80)) bytes[length++] = (rest % 0x80) | 0x80;
    bytes[length++] = rest;
  };
  for (let at = 0; at < count; at++) {
    const begins = functions[at] !== CALL_END;
    const value = (timesUs[at]! - before) * 2 + (begins ? 1 : 0);
    if (value < 0x80) bytes[length++] = value;
    else write(value);
    if (begins) write(functions[at]! - base);
    before = timesUs[at]!;
  }
  const data = toBase64(bytes.subarray(0, length));
  return { thread, startMs: firstUs / 1000, durationMs: (before - firstUs) / 1000, count, base, data };
}

export interface UnpackedCalls extends CallEvents {
  readonly timesUs: Float64Array;
  readonly functions: Int32Array;
}

function freshColumns(count: number): UnpackedCalls {
  return { timesUs: new Float64Array(count), functions: new Int32Array(count) };
}

/** Columns that are used for one row after the other, so that reading many of them takes no new memory for each. */
export class CallScratch {
  #columns = freshColumns(0);

  columns(count: number): UnpackedCalls {
    if (this.#columns.timesUs.length < count) this.#columns = freshColumns(count * 2);
    const { timesUs, functions } = this.#columns;
    return { timesUs: timesUs.subarray(0, count), functions: functions.subarray(0, count) };
  }
}

/**
 * Unpacks a row of call events.
 * @param into columns to be written over, where what was unpacked before is not needed any more
 * @throws RangeError when the data is damaged or does not hold `count` events. Nothing is allocated from the
 * count alone, so a false one cannot exhaust memory.
 */
export function unpackCalls(row: RowContent<'calls'>, into?: CallScratch): UnpackedCalls {
  const bytes = fromBase64(row.data);
  if (row.count > bytes.length) {
    throw new RangeError(`packed data of ${bytes.length} bytes cannot hold ${row.count} events`);
  }
  const { timesUs, functions } = into?.columns(row.count) ?? freshColumns(row.count);
  let timeUs = toMicroseconds(row.startMs);
  let place = 0;
  const readLong = (first: number): number => {
    let value = first & 0x7f;
    let scale = 0x80;
    for (;;) {
      const byte = bytes[place++];
      if (byte === undefined) throw new RangeError(`packed data ends inside a number at byte ${place - 1}`);
      value += (byte & 0x7f) * scale;
      if (byte < 0x80) break;
      scale *= 0x80;
      if (scale > 2 ** 49) throw new RangeError(`packed number too large at byte ${place - 1}`);
    }
    if (!Number.isSafeInteger(value)) throw new RangeError(`packed number too large at byte ${place - 1}`);
    return value;
  };
  let at = 0;
  for (; place < bytes.length && at < row.count; at++) {
    const first = bytes[place++]!;
    let begins: boolean;
    if (first < 0x80) {
      begins = (first & 1) === 1;
      timeUs += first >> 1;
    } else {
      const value = readLong(first);
      begins = value % 2 === 1;
      timeUs += Math.floor(value / 2);
    }
    timesUs[at] = timeUs;
    if (!begins) {
      functions[at] = CALL_END;
      continue;
    }
    if (place >= bytes.length) throw new RangeError(`packed data ends inside a number at byte ${place}`);
    let packed = bytes[place++]!;
    if (packed >= 0x80) packed = readLong(packed);
    functions[at] = row.base + packed;
    if (functions[at]! < 0) throw new RangeError(`packed function too large at event ${at}`);
  }
  if (at !== row.count || place < bytes.length) {
    throw new RangeError(`packed data does not hold the ${row.count} events that "count" says`);
  }
  return { timesUs, functions };
}
