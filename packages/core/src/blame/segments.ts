import type { Owner } from '../recording/functions';
import { copyInto } from '../recording/grow';

/** Kinds of work, in the order they are listed. */
export const ACTIVITIES = [
  'script',
  'style',
  'layout',
  'paint',
  'drawing',
  'collection',
  'other',
  'unexplained',
  'idle',
] as const;
/**
 * `drawing` is style, layout and paint together, where the engine does not tell them apart; `unexplained` is
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

const INITIAL_CAPACITY = 64;

/** Segments in order of time without gap or overlap: each begins where the one before it ends. */
export class SegmentList {
  #ends = new Float64Array(INITIAL_CAPACITY);
  #stacks = new Int32Array(INITIAL_CAPACITY);
  #entries = new Int32Array(INITIAL_CAPACITY);
  #kinds = new Uint8Array(INITIAL_CAPACITY * 3);
  #length = 0;

  constructor(readonly startMs: number) {}

  get length(): number {
    return this.#length;
  }

  get endMs(): number {
    return this.#length === 0 ? this.startMs : this.#ends[this.#length - 1]!;
  }

  /** Adds what lasts until `segment.endMs`; joins it to the one before it when they say the same. */
  push(segment: Omit<Segment, 'startMs'>): void {
    if (segment.endMs <= this.endMs) return;
    const last = this.#length - 1;
    if (last >= 0 && this.#same(last, segment)) {
      this.#ends[last] = segment.endMs;
      return;
    }
    if (this.#length === this.#ends.length) this.#grow();
    const at = this.#length++;
    this.#ends[at] = segment.endMs;
    this.#stacks[at] = segment.stack;
    this.#entries[at] = segment.entry;
    this.#kinds[at * 3] = ACTIVITIES.indexOf(segment.activity);
    this.#kinds[at * 3 + 1] = OWNERS.indexOf(segment.owner);
    this.#kinds[at * 3 + 2] = CERTAINTIES.indexOf(segment.certainty);
  }

  at(index: number): Segment {
    return {
      startMs: index === 0 ? this.startMs : this.#ends[index - 1]!,
      endMs: this.#ends[index]!,
      stack: this.#stacks[index]!,
      entry: this.#entries[index]!,
      activity: ACTIVITIES[this.#kinds[index * 3]!]!,
      owner: OWNERS[this.#kinds[index * 3 + 1]!]!,
      certainty: CERTAINTIES[this.#kinds[index * 3 + 2]!]!,
    };
  }

  *[Symbol.iterator](): Generator<Segment> {
    for (let index = 0; index < this.#length; index++) yield this.at(index);
  }

  #same(index: number, next: Omit<Segment, 'startMs'>): boolean {
    return (
      this.#stacks[index] === next.stack &&
      this.#entries[index] === next.entry &&
      this.#kinds[index * 3] === ACTIVITIES.indexOf(next.activity) &&
      this.#kinds[index * 3 + 1] === OWNERS.indexOf(next.owner) &&
      this.#kinds[index * 3 + 2] === CERTAINTIES.indexOf(next.certainty)
    );
  }

  #grow(): void {
    const capacity = this.#ends.length * 2;
    this.#ends = copyInto(new Float64Array(capacity), this.#ends);
    this.#stacks = copyInto(new Int32Array(capacity), this.#stacks);
    this.#entries = copyInto(new Int32Array(capacity), this.#entries);
    this.#kinds = copyInto(new Uint8Array(capacity * 3), this.#kinds);
  }
}
