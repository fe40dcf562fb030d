import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, type Owner } from '../recording/functions';
import { copyInto } from '../recording/typed-arrays';
import { firstIndex } from '../statistics/search';

/** Kinds of work, in the order they are listed. */
export const ACTIVITIES = [
  'script',
  'style',
  'layout',
  'paint',
  'drawing',
  'collection',
  'other',
  'dialog',
  'unexplained',
  'idle',
] as const;
/**
 * `dialog` is the time of a person in front of a synchronous dialog; `drawing` is style, layout and paint together, where the engine does not tell them apart; `unexplained` is
 * time of which nothing closer is known: measured if the thread was busy, inferred if nobody looked.
 */
export type Activity = (typeof ACTIVITIES)[number];

/** How a segment is known: timed, told by samples, or concluded. */
export const CERTAINTIES = ['measured', 'sampled', 'inferred'] as const;
export type Certainty = (typeof CERTAINTIES)[number];

const OWNERS: readonly Owner[] = ['own', 'library', 'browser'];

/** A piece of time with one answer to "what was it spent on". */
export interface Segment {
  readonly startMs: number;
  readonly endMs: number;
  readonly activity: Activity;
  readonly owner: Owner;
  readonly certainty: Certainty;
  /** Call stack, or NO_STACK where none is known. */
  readonly stack: number;
  /** Entered function where no stack is known, or UNKNOWN_FUNCTION. */
  readonly entry: number;
}

/** Activity, owner and certainty of a segment in one byte. */
export type KindCode = number;

export function kindCode(activity: Activity, owner: Owner, certainty: Certainty): KindCode {
  const place = ACTIVITIES.indexOf(activity) * OWNERS.length + OWNERS.indexOf(owner);
  return place * CERTAINTIES.length + CERTAINTIES.indexOf(certainty);
}

/** Number of different codes. */
export const KIND_CODES = ACTIVITIES.length * OWNERS.length * CERTAINTIES.length;

export function kindOfCode(code: KindCode): Pick<Segment, 'activity' | 'owner' | 'certainty'> {
  const place = Math.floor(code / CERTAINTIES.length);
  return {
    activity: ACTIVITIES[Math.floor(place / OWNERS.length)]!,
    owner: OWNERS[place % OWNERS.length]!,
    certainty: CERTAINTIES[code % CERTAINTIES.length]!,
  };
}

/** Time of one kind on one stack, or of one entry where no stack is known. */
export interface StackTime extends Pick<Segment, 'activity' | 'owner' | 'certainty' | 'stack' | 'entry'> {
  readonly lengthMs: number;
}

const INITIAL_CAPACITY = 64;

/** Segments in order of time without gap or overlap: each begins where the one before it ends. */
export class SegmentList {
  #ends: Float64Array;
  #stacks: Int32Array;
  #entries: Int32Array;
  #codes: Uint8Array;
  #length = 0;
  #endMs: number;

  /** @param expected number of segments there will probably be */
  constructor(
    readonly startMs: number,
    expected = INITIAL_CAPACITY,
  ) {
    this.#endMs = startMs;
    this.#ends = new Float64Array(expected);
    this.#stacks = new Int32Array(expected);
    this.#entries = new Int32Array(expected);
    this.#codes = new Uint8Array(expected);
  }

  get length(): number {
    return this.#length;
  }

  get endMs(): number {
    return this.#endMs;
  }

  /** Adds what lasts until `endMs`; joins it to the one before it when they say the same. */
  push(endMs: number, code: KindCode, stack: number, entry: number): void {
    if (endMs <= this.#endMs) return;
    this.#endMs = endMs;
    const last = this.#length - 1;
    if (
      last >= 0 &&
      this.#stacks[last] === stack &&
      this.#codes[last] === code &&
      this.#entries[last] === entry
    ) {
      this.#ends[last] = endMs;
      return;
    }
    if (this.#length === this.#ends.length) this.#grow();
    const at = this.#length++;
    this.#ends[at] = endMs;
    this.#stacks[at] = stack;
    this.#entries[at] = entry;
    this.#codes[at] = code;
  }

  at(index: number): Segment {
    return {
      startMs: index === 0 ? this.startMs : this.#ends[index - 1]!,
      endMs: this.#ends[index]!,
      stack: this.#stacks[index]!,
      entry: this.#entries[index]!,
      ...kindOfCode(this.#codes[index]!),
    };
  }

  endOf(index: number): number {
    return this.#ends[index]!;
  }

  codeOf(index: number): KindCode {
    return this.#codes[index]!;
  }

  /** Index of the segment that ends after a time; `length` when there is none. */
  indexAt(ms: number): number {
    return firstIndex(this.#length, (index) => this.#ends[index]! > ms);
  }

  /** Adds a segment of this list to another, until its end or an earlier one. */
  copyTo(other: SegmentList, index: number, endMs: number): void {
    const untilMs = Math.min(this.#ends[index]!, endMs);
    other.push(untilMs, this.#codes[index]!, this.#stacks[index]!, this.#entries[index]!);
  }

  *[Symbol.iterator](): Generator<Segment> {
    for (let index = 0; index < this.#length; index++) yield this.at(index);
  }

  /** The segments summed by stack and kind, in the order they are met; by entry where there is no stack. */
  stackTimes(): StackTime[] {
    const places = new Map<number, number>();
    const firsts: number[] = [];
    const lengths: number[] = [];
    let fromMs = this.startMs;
    for (let index = 0; index < this.#length; index++) {
      const stack = this.#stacks[index]!;
      // Entries count downwards from 0, stacks upwards from 1.
      const where = stack === NO_STACK ? UNKNOWN_FUNCTION - this.#entries[index]! : stack + 1;
      const key = where * (KIND_CODES + 1) + Math.min(this.#codes[index]!, KIND_CODES);
      let place = places.get(key);
      if (place === undefined) {
        places.set(key, (place = firsts.length));
        firsts.push(index);
        lengths.push(0);
      }
      lengths[place]! += this.#ends[index]! - fromMs;
      fromMs = this.#ends[index]!;
    }
    return firsts.map((index, place) => {
      const { activity, owner, certainty, stack, entry } = this.at(index);
      return { activity, owner, certainty, stack, entry, lengthMs: lengths[place]! };
    });
  }

  /** Milliseconds by kind: the sum of the lengths of all segments with each code. */
  sums(): Float64Array {
    return this.sumsOf(this.startMs, this.#endMs);
  }

  /** The same of a part of the list. Codes that stand for no kind are left out. */
  sumsOf(startMs: number, endMs: number): Float64Array {
    const sums = new Float64Array(KIND_CODES);
    const codes = this.#codes;
    const ends = this.#ends;
    let fromMs = Math.max(startMs, this.startMs);
    for (let index = this.indexAt(fromMs); index < this.#length && fromMs < endMs; index++) {
      const toMs = Math.min(ends[index]!, endMs);
      const code = codes[index]!;
      if (code < KIND_CODES) sums[code] = sums[code]! + toMs - fromMs;
      fromMs = toMs;
    }
    return sums;
  }

  #grow(): void {
    const capacity = Math.max(INITIAL_CAPACITY, this.#ends.length * 2);
    this.#ends = copyInto(new Float64Array(capacity), this.#ends);
    this.#stacks = copyInto(new Int32Array(capacity), this.#stacks);
    this.#entries = copyInto(new Int32Array(capacity), this.#entries);
    this.#codes = copyInto(new Uint8Array(capacity), this.#codes);
  }
}
