import { INSIDE_EXACT, sampledSegments } from '../attribution/sampled-segments';
import { kindCode, kindOfCode } from '../attribution/segments';
import { memoizedPerThread } from '../recording/memoize';
import type { TimeRange } from '../recording/recording';

/** Looks at a free thread shorter than this do not part two busy stretches. */
const GAP_MS = 0.05;

function isBusy(code: number): boolean {
  if (code === INSIDE_EXACT) return true;
  return kindOfCode(code).activity !== 'idle' && code !== kindCode('unexplained', 'browser', 'inferred');
}

/** Stretches in which a thread is known to have been busy without a break, in order of time. */
export const busyIntervals = memoizedPerThread((recording, thread): readonly TimeRange[] => {
  const { segments } = sampledSegments(recording, thread);
  const stretches: { startMs: number; endMs: number }[] = [];
  let startMs = segments.startMs;
  for (let index = 0; index < segments.length; index++) {
    const endMs = segments.endOf(index);
    if (isBusy(segments.codeOf(index))) {
      const last = stretches.at(-1);
      if (last !== undefined && startMs - last.endMs <= GAP_MS) last.endMs = endMs;
      else stretches.push({ startMs, endMs });
    }
    startMs = endMs;
  }
  return stretches;
});
