import { NO_STACK } from '../format/packed-samples';
import type { CallSpans } from '../recording/call-spans';
import { ownerOf } from '../recording/functions';
import { callsOf, type Recording, type TimeRange } from '../recording/recording';
import { blameOfSums, type Blame } from './blame';
import { outsideExactCalls } from './outside';
import { KIND_CODES, kindCode } from './segments';

/** For each stack the kind code of its innermost function, and that of its caller's (KIND_CODES where there is none). */
interface StackCodes {
  readonly own: Uint8Array;
  readonly caller: Uint8Array;
}

const known = new WeakMap<Recording, StackCodes>();

function stackCodes(recording: Recording): StackCodes {
  const { stacks, functions } = recording;
  let codes = known.get(recording);
  if (codes !== undefined && codes.own.length === stacks.length) return codes;
  const own = new Uint8Array(stacks.length);
  const caller = new Uint8Array(stacks.length).fill(KIND_CODES);
  for (let stack = 0; stack < stacks.length; stack++) {
    const recorded = functions.get(stacks.functionOf(stack));
    own[stack] = kindCode(recorded?.activity ?? 'script', ownerOf(recorded), 'measured');
    const parent = stacks.parentOf(stack);
    if (parent !== NO_STACK) caller[stack] = own[parent]!;
  }
  known.set(recording, (codes = { own, caller }));
  return codes;
}

/** Adds the self time of each call of a range: its length less that of what it called. Milliseconds by kind code. */
function addSelfTimes(recording: Recording, calls: CallSpans, range: TimeRange, sums: Float64Array): void {
  const { own, caller } = stackCodes(recording);
  const { startsUs, endsUs, stacks } = calls;
  const rangeStartUs = range.startMs * 1000;
  const rangeEndUs = range.endMs * 1000;
  const us = new Float64Array(KIND_CODES + 1);
  const open = calls.openAt(rangeStartUs);
  const first = calls.firstFrom(rangeStartUs);
  const last = calls.firstFrom(rangeEndUs);
  for (let at = first - open.length; at < last; at++) {
    const index = at < first ? open[at - first + open.length]! : at;
    const startUs = startsUs[index]!;
    const endUs = endsUs[index]!;
    const stack = stacks[index]!;
    const lengthUs =
      (endUs < rangeEndUs ? endUs : rangeEndUs) - (startUs > rangeStartUs ? startUs : rangeStartUs);
    const code = own[stack]!;
    const parentCode = caller[stack]!;
    us[code] = us[code]! + lengthUs;
    us[parentCode] = us[parentCode]! - lengthUs;
  }
  for (let code = 0; code < KIND_CODES; code++) sums[code] = sums[code]! + us[code]! / 1000;
}

/**
 * Milliseconds of a range of one thread by kind code: those of its partition, without making its segments.
 * @param range within the recording; what lies outside of it is left out
 */
export function kindsOfRange(recording: Recording, thread: number, range: TimeRange): Float64Array {
  const sums = outsideExactCalls(recording, thread).segments.sumsOf(range.startMs, range.endMs);
  addSelfTimes(recording, callsOf(recording, thread), range, sums);
  return sums;
}

/** The blame of a range of one thread, as that of its partition. @param range within the recording */
export function blameOfRange(recording: Recording, thread: number, range: TimeRange): Blame {
  return blameOfSums(kindsOfRange(recording, thread, range));
}
