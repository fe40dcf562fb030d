import { CALL_END, type CallEvents } from '../format/packed-calls';
import { NO_STACK } from '../format/packed-samples';
import { CallSpans } from './call-spans';
import { copyInto } from './grow';
import type { StackTable } from './stack-table';

const INITIAL_CAPACITY = 256;
/** Calls nested deeper are charged to the one at this depth. */
const DEEPEST = 60_000;
/** Columns with no more room than this share beyond what is in them are not copied. */
const MOST_SPARE = 1.25;

/** Turns call events, as they come, into call spans. */
export class CallSpansBuilder {
  #startsUs = new Float64Array(INITIAL_CAPACITY);
  #endsUs = new Float64Array(INITIAL_CAPACITY);
  #stackIds = new Int32Array(INITIAL_CAPACITY);
  #depths = new Uint16Array(INITIAL_CAPACITY);
  #length = 0;
  #lastUs = -Infinity;
  #tooDeep = 0;
  readonly #open: number[] = [];

  constructor(private readonly stacks: StackTable) {}

  /** Takes the next events. Ends of calls whose begin was never seen are passed over. */
  add({ timesUs, functions }: CallEvents): void {
    this.#reserve(timesUs.length);
    const { stacks } = this;
    const open = this.#open;
    const [starts, ends, stackIds, depths] = [this.#startsUs, this.#endsUs, this.#stackIds, this.#depths];
    let length = this.#length;
    let lastUs = this.#lastUs;
    for (let at = 0; at < timesUs.length; at++) {
      const given = timesUs[at]!;
      const timeUs = given > lastUs ? given : lastUs;
      lastUs = timeUs;
      const functionId = functions[at]!;
      if (functionId === CALL_END) {
        if (this.#tooDeep > 0) this.#tooDeep--;
        else if (open.length > 0) ends[open.pop()!] = timeUs;
      } else if (open.length >= DEEPEST) {
        this.#tooDeep++;
      } else {
        const depth = open.length;
        const parent = depth === 0 ? NO_STACK : stackIds[open[depth - 1]!]!;
        starts[length] = timeUs;
        ends[length] = timeUs;
        stackIds[length] = stacks.calledFrom(parent, functionId);
        depths[length] = depth;
        open.push(length++);
      }
    }
    this.#length = length;
    this.#lastUs = lastUs;
  }

  /** Ends all calls that are open at the latest time known, as nothing is known of their real end. */
  forgetOpen(): void {
    this.#tooDeep = 0;
    while (this.#open.length > 0) this.#endsUs[this.#open.pop()!] = this.#lastUs;
  }

  /**
   * The calls so far; those still open end at the latest time known. What was written is not written again but for
   * those ends, so that columns that are nearly full are given as they are.
   */
  build(): CallSpans {
    const length = this.#length;
    const isNearlyFull = this.#startsUs.length <= length * MOST_SPARE;
    const copied = !isNearlyFull || this.#open.length > 0;
    const endsUs = copied ? this.#endsUs.slice(0, length) : this.#endsUs.subarray(0, length);
    for (const open of this.#open) endsUs[open] = this.#lastUs;
    const [startsUs, stacks, depths] = [this.#startsUs, this.#stackIds, this.#depths];
    return new CallSpans({
      startsUs: isNearlyFull ? startsUs.subarray(0, length) : startsUs.slice(0, length),
      endsUs,
      stacks: isNearlyFull ? stacks.subarray(0, length) : stacks.slice(0, length),
      depths: isNearlyFull ? depths.subarray(0, length) : depths.slice(0, length),
    });
  }

  /** Makes room for so many more calls. */
  #reserve(more: number): void {
    let capacity = this.#startsUs.length;
    while (capacity < this.#length + more) capacity *= 2;
    if (capacity === this.#startsUs.length) return;
    this.#startsUs = copyInto(new Float64Array(capacity), this.#startsUs);
    this.#endsUs = copyInto(new Float64Array(capacity), this.#endsUs);
    this.#stackIds = copyInto(new Int32Array(capacity), this.#stackIds);
    this.#depths = copyInto(new Uint16Array(capacity), this.#depths);
  }
}
