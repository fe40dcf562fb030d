import type { CallSpans } from '../recording/call-spans';
import { ownerOf } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';
import { firstIndex } from '../statistics/search';

/**
 * What to draw in rows of calls, column by column: single calls that can be seen, and pixels full of calls that cannot.
 * The columns are longer than what is drawn.
 */
export interface DrawnCalls {
  length: number;
  /** Index of the call in its spans; of a full pixel, that of the first call in it. */
  readonly indexes: Int32Array;
  readonly startsMs: Float64Array;
  readonly endsMs: Float64Array;
  readonly depths: Uint16Array;
  /** Share of the stretch that calls fill: 1 for one call. */
  readonly filled: Float32Array;
  /** Share of the filled time that is not own code, 0 or 1 for one call. */
  readonly others: Float32Array;
}

function roomFor(capacity: number): DrawnCalls {
  return {
    length: 0,
    indexes: new Int32Array(capacity),
    startsMs: new Float64Array(capacity),
    endsMs: new Float64Array(capacity),
    depths: new Uint16Array(capacity),
    filled: new Float32Array(capacity),
    others: new Float32Array(capacity),
  };
}

/** What a row may hold beside one thing a pixel: what is cut at its edges. */
const BEYOND_PIXELS = 3;

/** The calls of one depth: they never overlap, so any moment is found by halving. */
interface DepthRow {
  /** Where the row begins among the indexes. */
  readonly from: number;
  readonly to: number;
  /** End of the last call of each block of the row: what is looked through first, as it stands close together. */
  readonly blockEndsUs: Float64Array;
}

const BLOCK_BITS = 3;
const MANY_BLOCKS = 4;
/** Numbers a place, and where the two sums stand in it. */
const PLACE = 3;
const BEFORE = 1;
const OTHERS = 2;
/** Differences of the sums in places are right for pixels narrower than this. Microseconds. */
const WIDE_US = 2 ** 31;
/** Places whose calls one whole sum is kept for, for wider pixels. */
const WHOLE_BITS = 6;

/**
 * Finds what to draw of call spans in any range at any zoom, in time that depends on the pixels of the drawing and
 * not on the number of calls. 12 bytes a call.
 */
export class CallLodIndex {
  /**
   * For each place in the order of the calls, depth by depth and each in order of time, PLACE numbers side by side, as
   * they are read together: the index of the call; the time of all calls of its depth before it, modulo 2^32
   * microseconds; and the same of calls that are not own code.
   */
  readonly #places: Uint32Array;
  /** The same two sums, whole, before every so many places. Microseconds. */
  readonly #wholes: Float64Array;
  readonly #rows: readonly DepthRow[];
  readonly #isOther: Uint8Array;

  constructor(
    recording: Recording,
    readonly spans: CallSpans,
  ) {
    const { depths, startsUs, endsUs, stacks, length } = spans;
    const counts: number[] = [];
    for (let at = 0; at < length; at++) counts[depths[at]!] = (counts[depths[at]!] ?? 0) + 1;
    let from = 0;
    const rows = Array.from(counts, (count = 0) => ({ from, to: (from += count) }));
    const next = rows.map((row) => row.from);
    const places = (this.#places = new Uint32Array(PLACE * (length + 1)));
    for (let at = 0; at < length; at++) places[PLACE * next[depths[at]!]!++] = at;
    this.#rows = rows.map((row) => ({ ...row, blockEndsUs: this.#blockEnds(row.from, row.to) }));
    const isOther = (this.#isOther = othersByStack(recording));
    this.#wholes = new Float64Array(2 * ((length >> WHOLE_BITS) + 1));
    let allUs = 0;
    let othersUs = 0;
    for (let at = 0; at < length; at++) {
      const place = PLACE * at;
      const index = places[place]!;
      if (at % (1 << WHOLE_BITS) === 0) this.#wholes.set([allUs, othersUs], 2 * (at >> WHOLE_BITS));
      const us = Math.round(endsUs[index]! - startsUs[index]!);
      allUs += us;
      if (isOther[stacks[index]!] === 1) othersUs += us;
      places[place + PLACE + BEFORE] = allUs;
      places[place + PLACE + OTHERS] = othersUs;
    }
  }

  #blockEnds(from: number, to: number): Float64Array {
    const ends = new Float64Array((to - from + (1 << BLOCK_BITS) - 1) >> BLOCK_BITS);
    for (let block = 0; block < ends.length; block++) {
      const last = Math.min(to, from + ((block + 1) << BLOCK_BITS)) - 1;
      ends[block] = this.spans.endsUs[this.#places[PLACE * last]!]!;
    }
    return ends;
  }

  /** Number of depths. */
  get depth(): number {
    return this.#rows.length;
  }

  /**
   * What to draw of a range.
   * @param pixels width of the drawing
   * @param depths number of rows that are drawn, from the outermost
   */
  draw(range: TimeRange, pixels: number, depths: number): DrawnCalls {
    const rows = Math.min(depths, this.depth);
    const drawn = roomFor(rows * (Math.ceil(pixels) + BEYOND_PIXELS));
    for (let depth = 0; depth < rows; depth++) this.#drawRow(range, pixels, depth, drawn);
    return drawn;
  }

  #drawRow({ startMs, endMs }: TimeRange, pixels: number, depth: number, drawn: DrawnCalls): void {
    const { startsUs, endsUs } = this.spans;
    const { indexes, startsMs, endsMs, depths, filled, others } = drawn;
    const places = this.#places;
    const row = this.#rows[depth]!;
    const pixelUs = ((endMs - startMs) * 1000) / pixels;
    const endUs = endMs * 1000;
    let { length } = drawn;
    let at = this.#firstEndingAfter(row, startMs * 1000);
    while (at < row.to) {
      const place = PLACE * at;
      const index = places[place]!;
      const fromUs = startsUs[index]!;
      if (fromUs >= endUs) break;
      const isOne = endsUs[index]! - fromUs >= pixelUs;
      const toUs = isOne ? endsUs[index]! : fromUs + pixelUs;
      const next = isOne ? at + 1 : Math.max(at + 1, this.#nextEndingAfter(row, at, toUs));
      let filledUs = (places[PLACE * next + BEFORE]! - places[place + BEFORE]!) >>> 0;
      let othersUs = (places[PLACE * next + OTHERS]! - places[place + OTHERS]!) >>> 0;
      if (pixelUs >= WIDE_US) {
        const [fromAll, fromOthers] = this.#wholeSums(at);
        const [toAll, toOthers] = this.#wholeSums(next);
        filledUs = toAll - fromAll;
        othersUs = toOthers - fromOthers;
      }
      indexes[length] = index;
      startsMs[length] = fromUs / 1000;
      endsMs[length] = toUs / 1000;
      depths[length] = depth;
      filled[length] = isOne ? 1 : Math.min(1, filledUs / pixelUs);
      others[length] = filledUs === 0 ? 0 : othersUs / filledUs;
      length++;
      at = next;
    }
    drawn.length = length;
  }

  /** Time of all calls before a place, and of those that are not own code. Microseconds. */
  #wholeSums(place: number): [allUs: number, othersUs: number] {
    const { startsUs, endsUs, stacks } = this.spans;
    const block = Math.min(place >> WHOLE_BITS, this.#wholes.length / 2 - 1);
    let allUs = this.#wholes[2 * block]!;
    let othersUs = this.#wholes[2 * block + 1]!;
    for (let at = block << WHOLE_BITS; at < place; at++) {
      const index = this.#places[PLACE * at]!;
      const us = Math.round(endsUs[index]! - startsUs[index]!);
      allUs += us;
      if (this.#isOther[stacks[index]!] === 1) othersUs += us;
    }
    return [allUs, othersUs];
  }

  /** The call of a depth that runs at a moment, or that begins within a distance of it; undefined when there is none. */
  at(ms: number, depth: number, withinMs = 0): number | undefined {
    const row = this.#rows[depth];
    if (row === undefined) return undefined;
    const place = this.#firstEndingAfter(row, (ms - withinMs) * 1000);
    const index = place < row.to ? this.#places[PLACE * place]! : undefined;
    return index !== undefined && this.spans.startsUs[index]! <= (ms + withinMs) * 1000 ? index : undefined;
  }

  #firstEndingAfter({ from, to }: Pick<DepthRow, 'from' | 'to'>, us: number): number {
    const { endsUs } = this.spans;
    return firstIndex(to, (place) => endsUs[this.#places[PLACE * place]!]! > us, from);
  }

  /**
   * The same from a place on, to draw a pixel. Where the pixel holds many blocks of calls, it ends with one of them:
   * that is at most a quarter of a pixel too late.
   */
  #nextEndingAfter(row: DepthRow, place: number, us: number): number {
    const { to, blockEndsUs } = row;
    const block = (place - row.from) >> BLOCK_BITS;
    let step = 1;
    while (block + step < blockEndsUs.length && blockEndsUs[block + step]! <= us) step *= 2;
    const last = Math.min(blockEndsUs.length, block + step);
    const next = firstIndex(last, (at) => blockEndsUs[at]! > us, block + (step >> 1));
    const from = Math.max(place, row.from + (next << BLOCK_BITS));
    const end = Math.min(to, row.from + ((next + 1) << BLOCK_BITS));
    return next - block >= MANY_BLOCKS ? end : this.#firstEndingAfter({ from, to: end }, us);
  }
}

function othersByStack({ stacks, functions }: Recording): Uint8Array {
  return Uint8Array.from({ length: stacks.length }, (_, stack) =>
    ownerOf(functions.get(stacks.functionOf(stack))) === 'own' ? 0 : 1,
  );
}
