import { callsOf, type Recording } from '../recording/recording';
import type { CallSpans } from '../recording/call-spans';
import { toldSpans } from './told-spans';

/**
 * All calls of one thread. What is known exactly and what is told by samples never overlap; both have the same
 * columns, so every view works on both.
 */
export interface CallLog {
  /** Measured: each span is one call. */
  readonly exact: CallSpans;
  /** Sampled or concluded: each span is a stretch during which a function was seen on the stack. */
  readonly told: CallSpans;
}

const logs = new WeakMap<Recording, Map<number, CallLog>>();

/** The calls of a thread, worked out once for each recording. */
export function callLogOf(recording: Recording, thread: number): CallLog {
  let byThread = logs.get(recording);
  if (byThread === undefined) logs.set(recording, (byThread = new Map()));
  let log = byThread.get(thread);
  if (log === undefined) {
    log = { exact: callsOf(recording, thread), told: toldSpans(recording, thread) };
    byThread.set(thread, log);
  }
  return log;
}
