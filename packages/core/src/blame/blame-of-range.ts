import type { Recording, TimeRange } from '../recording/recording';
import { blameOfSums, type Blame } from './blame';
import { outsideExactCalls } from './outside';
import { selfTimesOf } from './self-times';

/**
 * Milliseconds of a range of one thread by kind code: those of its partition, without making its segments.
 * @param range within the recording; what lies outside of it is left out
 */
export function kindsOfRange(recording: Recording, thread: number, range: TimeRange): Float64Array {
  const sums = outsideExactCalls(recording, thread).segments.sumsOf(range.startMs, range.endMs);
  selfTimesOf(recording, thread).addTo(sums, range);
  return sums;
}

/** The blame of a range of one thread, as that of its partition. @param range within the recording */
export function blameOfRange(recording: Recording, thread: number, range: TimeRange): Blame {
  return blameOfSums(kindsOfRange(recording, thread, range));
}
