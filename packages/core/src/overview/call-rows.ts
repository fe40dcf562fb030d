import type { CallSpans } from '../recording/call-spans';
import { ownerOf } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';

/** Something to draw in one row of calls: one call that can be seen, or a pixel full of calls that cannot. */
export interface DrawnCall {
  /** Index of the call in its spans; of a full pixel, that of the first call in it. */
  readonly index: number;
  readonly startMs: number;
  readonly endMs: number;
  readonly depth: number;
  /** Share of the stretch that calls fill: 1 for one call. */
  readonly filled: number;
  /** Share of the filled time that is not own code, 0 or 1 for one call. */
  readonly others: number;
}

/** Differences of sums in whole microseconds are right up to this, some 71 minutes. */
const WRAP = 2 ** 32;

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

/**
 * Finds what to draw of call spans in any range at any zoom, in time that depends on the pixels of the drawing and
 * not on the number of calls. 12 bytes a call.
 */
export class CallRows {
  /** Indexes of the calls, depth by depth, in order of time. */
  readonly #order: Uint32Array;
  /** For each place in the order, the time of all calls of its depth before it, modulo 2^32 microseconds. */
  readonly #before: Uint32Array;
  /** The same of calls that are not own code. */
  readonly #othersBefore: Uint32Array;
  readonly #rows: readonly DepthRow[];

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
    this.#order = new Uint32Array(length);
    for (let at = 0; at < length; at++) this.#order[next[depths[at]!]!++] = at;
    this.#rows = rows.map((row) => ({ ...row, blockEndsUs: this.#blockEnds(row.from, row.to) }));
    this.#before = new Uint32Array(length + 1);
    this.#othersBefore = new Uint32Array(length + 1);
    const isOther = othersByStack(recording);
    for (let at = 0; at < length; at++) {
      const index = this.#order[at]!;
      const us = Math.round(endsUs[index]! - startsUs[index]!);
      this.#before[at + 1] = this.#before[at]! + us;
      this.#othersBefore[at + 1] = this.#othersBefore[at]! + (isOther[stacks[index]!] === 1 ? us : 0);
    }
  }

  #blockEnds(from: number, to: number): Float64Array {
    const ends = new Float64Array((to - from + (1 << BLOCK_BITS) - 1) >> BLOCK_BITS);
    for (let block = 0; block < ends.length; block++) {
      const last = Math.min(to, from + ((block + 1) << BLOCK_BITS)) - 1;
      ends[block] = this.spans.endsUs[this.#order[last]!]!;
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
  draw(range: TimeRange, pixels: number, depths: number): DrawnCall[] {
    const drawn: DrawnCall[] = [];
    for (let depth = 0; depth < Math.min(depths, this.depth); depth++)
      this.#drawRow(range, pixels, depth, drawn);
    return drawn;
  }

  #drawRow({ startMs, endMs }: TimeRange, pixels: number, depth: number, drawn: DrawnCall[]): void {
    const { startsUs, endsUs } = this.spans;
    const row = this.#rows[depth]!;
    const pixelUs = ((endMs - startMs) * 1000) / pixels;
    const endUs = endMs * 1000;
    let at = this.#firstEndingAfter(row, startMs * 1000);
    while (at < row.to) {
      const index = this.#order[at]!;
      const fromUs = startsUs[index]!;
      if (fromUs >= endUs) return;
      const lengthUs = endsUs[index]! - fromUs;
      if (lengthUs >= pixelUs) {
        const others = this.#othersIn(at, at + 1) > 0 ? 1 : 0;
        drawn.push({ index, startMs: fromUs / 1000, endMs: endsUs[index]! / 1000, depth, filled: 1, others });
        at++;
        continue;
      }
      const pixelEndUs = fromUs + pixelUs;
      const end = Math.max(at + 1, this.#nextEndingAfter(row, at, pixelEndUs));
      const filledUs = this.#filledIn(at, end);
      drawn.push({
        index,
        startMs: fromUs / 1000,
        endMs: pixelEndUs / 1000,
        depth,
        filled: Math.min(1, filledUs / pixelUs),
        others: filledUs === 0 ? 0 : this.#othersIn(at, end) / filledUs,
      });
      at = end;
    }
  }

  /** The call of a depth that runs at a moment, or that begins within a distance of it; undefined when there is none. */
  at(ms: number, depth: number, withinMs = 0): number | undefined {
    const row = this.#rows[depth];
    if (row === undefined) return undefined;
    const place = this.#firstEndingAfter(row, (ms - withinMs) * 1000);
    const index = place < row.to ? this.#order[place]! : undefined;
    return index !== undefined && this.spans.startsUs[index]! <= (ms + withinMs) * 1000 ? index : undefined;
  }

  #firstEndingAfter({ from, to }: Pick<DepthRow, 'from' | 'to'>, us: number): number {
    let low = from;
    let high = to;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.spans.endsUs[this.#order[middle]!]! <= us) low = middle + 1;
      else high = middle;
    }
    return low;
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
    let low = block + (step >> 1);
    let high = Math.min(blockEndsUs.length, block + step);
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (blockEndsUs[middle]! <= us) low = middle + 1;
      else high = middle;
    }
    const from = Math.max(place, row.from + (low << BLOCK_BITS));
    const end = Math.min(to, row.from + ((low + 1) << BLOCK_BITS));
    return low - block >= MANY_BLOCKS ? end : this.#firstEndingAfter({ from, to: end }, us);
  }

  #filledIn(from: number, to: number): number {
    return (this.#before[to]! - this.#before[from]! + WRAP) % WRAP;
  }

  #othersIn(from: number, to: number): number {
    return (this.#othersBefore[to]! - this.#othersBefore[from]! + WRAP) % WRAP;
  }
}

function othersByStack({ stacks, functions }: Recording): Uint8Array {
  return Uint8Array.from({ length: stacks.length }, (_, stack) =>
    ownerOf(functions.get(stacks.functionOf(stack))) === 'own' ? 0 : 1,
  );
}
