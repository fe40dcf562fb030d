import { CALL_END, type CallEvents } from '../format/packed-calls';
import { NO_STACK } from '../format/packed-samples';
import { CallSpans } from './call-spans';
import { copyInto } from './grow';
import type { StackTable } from './stack-table';

const INITIAL_CAPACITY = 256;
/** Calls nested deeper are charged to the one at this depth. */
const DEEPEST = 60_000;

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
    for (let at = 0; at < timesUs.length; at++) {
      const timeUs = Math.max(timesUs[at]!, this.#lastUs);
      this.#lastUs = timeUs;
      const functionId = functions[at]!;
      if (functionId === CALL_END) this.#end(timeUs);
      else this.#begin(timeUs, functionId);
    }
  }

  /** Ends all calls that are open at the latest time known, as nothing is known of their real end. */
  forgetOpen(): void {
    this.#tooDeep = 0;
    while (this.#open.length > 0) this.#endsUs[this.#open.pop()!] = this.#lastUs;
  }

  /** The calls so far; those still open end at the latest time known. */
  build(): CallSpans {
    const endsUs = this.#endsUs.slice(0, this.#length);
    for (const open of this.#open) endsUs[open] = this.#lastUs;
    return new CallSpans({
      startsUs: this.#startsUs.slice(0, this.#length),
      endsUs,
      stacks: this.#stackIds.slice(0, this.#length),
      depths: this.#depths.slice(0, this.#length),
    });
  }

  #begin(timeUs: number, functionId: number): void {
    if (this.#open.length >= DEEPEST) {
      this.#tooDeep++;
      return;
    }
    if (this.#length === this.#startsUs.length) this.#grow();
    const caller = this.#open.at(-1);
    const parent = caller === undefined ? NO_STACK : this.#stackIds[caller]!;
    const at = this.#length++;
    this.#startsUs[at] = timeUs;
    this.#endsUs[at] = timeUs;
    this.#stackIds[at] = this.stacks.calledFrom(parent, functionId);
    this.#depths[at] = this.#open.length;
    this.#open.push(at);
  }

  #end(timeUs: number): void {
    if (this.#tooDeep > 0) {
      this.#tooDeep--;
      return;
    }
    const at = this.#open.pop();
    if (at !== undefined) this.#endsUs[at] = timeUs;
  }

  #grow(): void {
    const capacity = this.#startsUs.length * 2;
    this.#startsUs = copyInto(new Float64Array(capacity), this.#startsUs);
    this.#endsUs = copyInto(new Float64Array(capacity), this.#endsUs);
    this.#stackIds = copyInto(new Int32Array(capacity), this.#stackIds);
    this.#depths = copyInto(new Uint16Array(capacity), this.#depths);
  }
}
