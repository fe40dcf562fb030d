import { readCalls, type CallTaker } from '../format/packed-calls';
import { NO_STACK } from '../format/packed-samples';
import type { RowContent } from '../format/rows';
import { CallSpans } from './call-spans';
import { copyInto } from './typed-arrays';
import type { StackTable } from './stack-table';

const INITIAL_CAPACITY = 256;
/** Calls nested deeper are charged to the one at this depth. */
const DEEPEST = 60_000;
/** Columns with no more room than this share beyond what is in them are not copied. */
const MAX_SPARE = 1.25;
/** Room that is made beyond what the calls so far let expect of the whole. */
const EXPECTED_SPARE = 1.1;
/** Room is never made for more calls than these that are only expected. */
const MAX_EXPECTED = 2 ** 23;

/** Turns packed call events, as they come, into call spans. */
export class CallSpansBuilder implements CallTaker {
  #startsUs = new Float64Array(INITIAL_CAPACITY);
  #endsUs = new Float64Array(INITIAL_CAPACITY);
  #stackIds = new Int32Array(INITIAL_CAPACITY);
  #depths = new Uint16Array(INITIAL_CAPACITY);
  #length = 0;
  #lastUs = -Infinity;
  #tooDeep = 0;
  /** Indexes of the calls that are open, by their depth. */
  #open = new Int32Array(INITIAL_CAPACITY);
  #depth = 0;

  /** @param isKnown whether there is a function of an id */
  constructor(
    private readonly stacks: StackTable,
    private readonly isKnown: (functionId: number) => boolean,
  ) {}

  /**
   * Takes the next row of events. Ends of calls whose begin was never seen are passed over.
   * @param read share of the whole input that was read, above 0 up to 1, where that is known
   * @throws RangeError when the row is damaged or names a function that is not known; nothing of it is then taken
   */
  add(row: RowContent<'calls'>, read?: number): void {
    this.#reserve(Math.min(row.count, row.data.length), read);
    const before = [this.#length, this.#lastUs, this.#tooDeep] as const;
    const open = this.#open.slice(0, this.#depth);
    try {
      if (row.fresh === true) this.#forgetOpen();
      readCalls(row, this);
    } catch (error) {
      [this.#length, this.#lastUs, this.#tooDeep] = before;
      this.#open.set(open);
      this.#depth = open.length;
      throw error;
    }
  }

  begins(givenUs: number, functionId: number): void {
    const timeUs = this.#notBefore(givenUs);
    const depth = this.#depth;
    if (depth >= DEEPEST) {
      this.#tooDeep++;
      return;
    }
    const index = this.#length++;
    const parent = depth === 0 ? NO_STACK : this.#stackIds[this.#open[depth - 1]!]!;
    this.#startsUs[index] = timeUs;
    this.#stackIds[index] = this.#stackOf(parent, functionId);
    this.#depths[index] = depth;
    if (depth === this.#open.length) this.#open = copyInto(new Int32Array(depth * 2), this.#open);
    this.#open[depth] = index;
    this.#depth = depth + 1;
  }

  ends(givenUs: number): void {
    const timeUs = this.#notBefore(givenUs);
    if (this.#tooDeep > 0) this.#tooDeep--;
    else if (this.#depth > 0) this.#endsUs[this.#open[--this.#depth]!] = timeUs;
  }

  /** Time of the last event; undefined before the first. */
  get lastUs(): number | undefined {
    return this.#lastUs === -Infinity ? undefined : this.#lastUs;
  }

  /**
   * The calls so far; those still open end at the latest time known. What was written is not written again but for
   * those ends, so that columns that are nearly full are given as they are.
   */
  build(): CallSpans {
    const length = this.#length;
    const isNearlyFull = this.#startsUs.length <= length * MAX_SPARE;
    const copied = !isNearlyFull || this.#depth > 0;
    const endsUs = copied ? this.#endsUs.slice(0, length) : this.#endsUs.subarray(0, length);
    for (let depth = 0; depth < this.#depth; depth++) endsUs[this.#open[depth]!] = this.#lastUs;
    const [startsUs, stacks, depths] = [this.#startsUs, this.#stackIds, this.#depths];
    return new CallSpans({
      startsUs: isNearlyFull ? startsUs.subarray(0, length) : startsUs.slice(0, length),
      endsUs,
      stacks: isNearlyFull ? stacks.subarray(0, length) : stacks.slice(0, length),
      depths: isNearlyFull ? depths.subarray(0, length) : depths.slice(0, length),
    });
  }

  #notBefore(timeUs: number): number {
    if (timeUs > this.#lastUs) this.#lastUs = timeUs;
    return this.#lastUs;
  }

  #stackOf(parent: number, functionId: number): number {
    const known = this.stacks.find(parent, functionId);
    if (known !== undefined) return known;
    if (!this.isKnown(functionId)) throw new RangeError(`function ${functionId} is unknown`);
    return this.stacks.calledFrom(parent, functionId);
  }

  /** Ends all calls that are open at the latest time known, as nothing is known of their real end. */
  #forgetOpen(): void {
    this.#tooDeep = 0;
    while (this.#depth > 0) this.#endsUs[this.#open[--this.#depth]!] = this.#lastUs;
  }

  /** Makes room for so many more calls, and for those to be expected of what is still to be read. */
  #reserve(more: number, read: number | undefined): void {
    const wanted = this.#length + more;
    const held = this.#startsUs.length;
    if (wanted <= held) return;
    const expected = read === undefined ? 0 : Math.ceil((wanted / read) * EXPECTED_SPARE);
    const capacity = Math.max(wanted, held * 2, Math.min(expected, wanted + MAX_EXPECTED));
    this.#startsUs = copyInto(new Float64Array(capacity), this.#startsUs);
    this.#endsUs = copyInto(new Float64Array(capacity), this.#endsUs);
    this.#stackIds = copyInto(new Int32Array(capacity), this.#stackIds);
    this.#depths = copyInto(new Uint16Array(capacity), this.#depths);
  }
}
