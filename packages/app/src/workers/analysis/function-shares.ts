import { WIDE_LENS, occurrencesOf, sharesOver, type Recording } from '@nettle-patch/core';

/** In which parts of a recording a function ran: its share of each of so many equal steps, 0 to 1. */
export function functionShares(
  recording: Recording,
  functionId: number,
  thread: number,
  steps: number,
): Float32Array {
  const range = { startMs: 0, endMs: recording.range.endMs };
  return sharesOver(occurrencesOf(recording, { ...WIDE_LENS, thread }, functionId), range, steps);
}
