import { unpackCounts } from '../format/packed-counts';
import { functionIdentities } from './function-identities';
import { memoizedPerThread } from './memoize';
import type { Recording, TimeRange } from './recording';

/** How often functions were called in a while. */
interface CountedWhile extends TimeRange {
  readonly functions: readonly number[];
  readonly counts: readonly number[];
}

const countedWhiles = memoizedPerThread((recording, thread): readonly CountedWhile[] => {
  const identities = functionIdentities(recording);
  return [...recording.events.counts.rows()]
    .filter((row) => row.thread === thread)
    .map((row) => {
      const { functions, counts } = unpackCounts(row);
      return {
        startMs: row.startMs,
        endMs: row.startMs + row.durationMs,
        functions: functions.map((id) => identities.get(id) ?? id),
        counts,
      };
    });
});

/** Calls as they were counted, where scripts count their calls (fine mode). */
export interface CountedCalls {
  /** By function: how often it was called. */
  readonly calls: ReadonlyMap<number, number>;
  /** Whether the range begins and ends where counting did: what is counted once a second is shared out evenly else. */
  readonly isWhole: boolean;
}

/** The share of a while that lies within a range, 0 to 1; undefined where they do not meet. */
function shareWithin({ startMs, endMs }: TimeRange, range: TimeRange): number | undefined {
  const fromMs = Math.max(startMs, range.startMs);
  const toMs = Math.min(endMs, range.endMs);
  if (toMs < fromMs || (toMs === fromMs && endMs > startMs)) return undefined;
  return endMs === startMs ? 1 : (toMs - fromMs) / (endMs - startMs);
}

/**
 * How often a function was called in a range, where calls were counted: at least, by what was counted within it, and at
 * most, by all that was counted while it lasted.
 */
export function countedBetween(
  recording: Recording,
  thread: number,
  range: TimeRange,
  functionId: number,
): { readonly least: number; readonly most: number } {
  let [least, most] = [0, 0];
  for (const counted of countedWhiles(recording, thread)) {
    const share = shareWithin(counted, range);
    if (share === undefined) continue;
    counted.functions.forEach((id, at) => {
      if (id !== functionId) return;
      most += counted.counts[at]!;
      if (share === 1) least += counted.counts[at]!;
    });
  }
  return { least, most };
}

/** How often each function was called in a range, where calls were counted. */
export function countedCalls(recording: Recording, thread: number, range: TimeRange): CountedCalls {
  const calls = new Map<number, number>();
  let isWhole = true;
  for (const counted of countedWhiles(recording, thread)) {
    const share = shareWithin(counted, range);
    if (share === undefined) continue;
    if (share < 1) isWhole = false;
    counted.functions.forEach((id, at) => calls.set(id, (calls.get(id) ?? 0) + counted.counts[at]! * share));
  }
  return { calls, isWhole };
}
