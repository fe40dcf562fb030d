import type { CallSpans } from '../recording/call-spans';
import { callsOf, type TimeRange } from '../recording/recording';
import { memoizedPerThread } from '../recording/memoize';
import type { StackTable } from '../recording/stack-table';
import { KIND_CODES } from './segments';
import { stackCodes, type StackCodes } from './stack-codes';
import { untimedCalls, type UntimedCalls } from './untimed-calls';

const BLOCK_BITS = 10;
/** Numbers a block: one for each kind code, and one for calls that nothing called. */
const CODES = KIND_CODES + 1;

/**
 * The self times of the exact calls of one thread by kind of work: the length of each call less that of what it called,
 * and less what calls took that were not timed, which are of the kind of what was called. The sums up to each block of
 * calls are kept, so that any range costs no more than a block at either edge and the calls that are open there.
 */
export class SelfTimes {
  /** Of all calls before each block, as if none were cut. Microseconds. */
  readonly #before: Float64Array;

  /** @param untimed calls that were not timed, by the stack of their caller */
  constructor(
    private readonly calls: CallSpans,
    private readonly codes: StackCodes,
    private readonly callers: StackTable,
    private readonly untimed: ReadonlyMap<number, readonly UntimedCalls[]>,
  ) {
    const blocks = (calls.length >> BLOCK_BITS) + 1;
    this.#before = new Float64Array(blocks * CODES);
    const sums = new Float64Array(CODES);
    for (let block = 1; block < blocks; block++) {
      this.#addCalls((block - 1) << BLOCK_BITS, block << BLOCK_BITS, sums);
      this.#before.set(sums, block * CODES);
    }
  }

  /** Adds what a range holds to sums by kind code, in milliseconds. */
  addTo(sums: Float64Array, { startMs, endMs }: TimeRange): void {
    const [startUs, endUs] = [startMs * 1000, endMs * 1000];
    const { calls } = this;
    const us = new Float64Array(CODES);
    const first = calls.firstFrom(startUs);
    const last = calls.firstFrom(endUs);
    for (const index of calls.openAt(startUs)) {
      this.#add(us, calls.stacks[index]!, Math.min(calls.endsUs[index]!, endUs) - startUs);
    }
    this.#addWhole(first, last, us);
    for (const index of calls.openAt(endUs)) {
      if (index >= first) this.#add(us, calls.stacks[index]!, endUs - calls.endsUs[index]!);
    }
    for (let code = 0; code < KIND_CODES; code++) sums[code] = sums[code]! + us[code]! / 1000;
  }

  /** Adds calls as if none were cut. */
  #addWhole(first: number, last: number, us: Float64Array): void {
    const [firstBlock, lastBlock] = [(first >> BLOCK_BITS) + 1, last >> BLOCK_BITS];
    if (firstBlock >= lastBlock) return this.#addCalls(first, last, us);
    this.#addCalls(first, firstBlock << BLOCK_BITS, us);
    this.#addCalls(lastBlock << BLOCK_BITS, last, us);
    for (let code = 0; code < CODES; code++) {
      const between = this.#before[lastBlock * CODES + code]! - this.#before[firstBlock * CODES + code]!;
      us[code] = us[code]! + between;
    }
  }

  #addCalls(first: number, last: number, us: Float64Array): void {
    const { startsUs, endsUs, stacks } = this.calls;
    for (let index = first; index < last; index++)
      this.#add(us, stacks[index]!, endsUs[index]! - startsUs[index]!);
  }

  #add(us: Float64Array, stack: number, lengthUs: number): void {
    const code = this.codes.own[stack]!;
    const callerCode = this.codes.caller[stack]!;
    us[code] = us[code]! + lengthUs;
    us[callerCode] = us[callerCode]! - lengthUs;
    if (this.untimed.size === 0) return;
    this.#move(us, stack, code, lengthUs);
    this.#move(us, this.callers.parentOf(stack), callerCode, -lengthUs);
  }

  /** Moves to what a stack called the shares that were not timed. */
  #move(us: Float64Array, caller: number, from: number, lengthUs: number): void {
    for (const { stack, share } of this.untimed.get(caller) ?? []) {
      const code = this.codes.own[stack]!;
      us[code] = us[code]! + share * lengthUs;
      us[from] = us[from]! - share * lengthUs;
    }
  }
}

/** The self times of a thread, added up when first asked for. */
export const selfTimesOf = memoizedPerThread(
  (recording, thread) =>
    new SelfTimes(
      callsOf(recording, thread),
      stackCodes(recording),
      recording.stacks,
      untimedCalls(recording, thread),
    ),
);
