import { fromBase64, toBase64 } from './base64';
import { MAX_WHOLE } from './fields';
import { toMicroseconds } from './packed-samples';
import type { RowContent } from './rows';
import { VarintReader } from './varint';

/** Two varints of a whole number that a double can hold. */
const MAX_BYTES_AN_EVENT = 16;

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
  const bytes = new Uint8Array(count * MAX_BYTES_AN_EVENT);
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

/** Takes the events of a row one by one, in order of time. Times are whole microseconds. */
export interface CallTaker {
  begins(timeUs: number, functionId: number): void;
  ends(timeUs: number): void;
}

/**
 * Reads a row of call events without keeping them.
 * @throws RangeError when the data is damaged or does not hold `count` events; what was given to the taker before is
 * then to be taken back. What the taker throws is passed on.
 */
export function readCalls(row: RowContent<'calls'>, taker: CallTaker): void {
  const bytes = fromBase64(row.data);
  const { length } = bytes;
  const { count, base } = row;
  const long = new VarintReader(bytes);
  let timeUs = toMicroseconds(row.startMs);
  let place = 0;
  let at = 0;
  for (; place < length && at < count; at++) {
    const first = bytes[place++]!;
    let begins: number;
    if (first < 0x80) {
      begins = first & 1;
      timeUs += first >> 1;
    } else {
      const value = long.readFrom(place - 1);
      place = long.place;
      begins = value % 2;
      timeUs += (value - begins) / 2;
    }
    if (begins === 0) {
      taker.ends(timeUs);
      continue;
    }
    if (place >= length) throw new RangeError(`packed data ends inside a number at byte ${place}`);
    let packed = bytes[place++]!;
    if (packed >= 0x80) {
      const second = place < length ? bytes[place]! : 0x80;
      if (second < 0x80) {
        packed = (packed & 0x7f) | (second << 7);
        place++;
      } else {
        packed = long.readFrom(place - 1);
        place = long.place;
      }
    }
    const id = base + packed;
    if (id > MAX_WHOLE) throw new RangeError(`packed function too large at event ${at}`);
    taker.begins(timeUs, id);
  }
  if (at !== count || place < length) {
    throw new RangeError(`packed data does not hold the ${count} events that "count" says`);
  }
}

/**
 * The events of a row.
 * @throws RangeError as `readCalls` does. Nothing is allocated from the count alone, so a false one cannot exhaust
 * memory.
 */
export function unpackCalls(row: RowContent<'calls'>): { timesUs: number[]; functions: number[] } {
  const timesUs: number[] = [];
  const functions: number[] = [];
  const take = (timeUs: number, functionId: number) => {
    timesUs.push(timeUs);
    functions.push(functionId);
  };
  readCalls(row, { begins: take, ends: (timeUs) => take(timeUs, CALL_END) });
  return { timesUs, functions };
}
