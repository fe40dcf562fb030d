import { memoizedPerThread } from '../recording/memoize';
import { callsOf } from '../recording/recording';
import { CallSpans } from '../recording/call-spans';
import { spansOfPartition, sampledSpans } from './sampled-spans';

/**
 * All calls of one thread. What is known exactly and what is told by samples never overlap; both have the same
 * columns, so every view works on both.
 */
export interface CallLog {
  /** Measured: each span is one call. */
  readonly exact: CallSpans;
  /** Sampled or concluded: each span is a stretch during which a function was seen on the stack. */
  readonly sampled: CallSpans;
}

/**
 * The calls of a thread. In everyday recordings only the layout that script forced is timed exactly, without its
 * callers: it then belongs to what samples saw around it.
 */
export const callLogOf = memoizedPerThread((recording, thread): CallLog => {
  const exact = callsOf(recording, thread);
  const isEngines = (at: number) =>
    recording.functions.get(recording.stacks.functionOf(exact.stacks[at]!))?.activity !== undefined;
  if (exact.roots.some((at) => !isEngines(at))) return { exact, sampled: sampledSpans(recording, thread) };
  return { exact: CallSpans.none(), sampled: spansOfPartition(recording, thread) };
});
