import type { Recording, TimeRange } from '../recording/recording';
import { breakdownOfSums, type TimeBreakdown } from './time-breakdown';
import { sampledSegments } from './sampled-segments';
import { selfTimesOf } from './self-times';

/**
 * Milliseconds of a range of one thread by kind code: those of its partition, without making its segments.
 * @param range within the recording; what lies outside of it is left out
 */
export function kindsOfRange(recording: Recording, thread: number, range: TimeRange): Float64Array {
  const sums = sampledSegments(recording, thread).segments.sumsOf(range.startMs, range.endMs);
  selfTimesOf(recording, thread).addTo(sums, range);
  return sums;
}

/** The blame of a range of one thread, as that of its partition. @param range within the recording */
export function rangeBreakdown(recording: Recording, thread: number, range: TimeRange): TimeBreakdown {
  return breakdownOfSums(kindsOfRange(recording, thread, range));
}
