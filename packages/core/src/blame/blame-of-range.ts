import type { CallSpans } from '../recording/call-spans';
import { callsOf, type Recording, type TimeRange } from '../recording/recording';
import { blameOfSums, type Blame } from './blame';
import { outsideExactCalls } from './outside';
import { KIND_CODES } from './segments';
import { stackCodes } from './stack-codes';

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
