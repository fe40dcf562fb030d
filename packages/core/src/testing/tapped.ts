import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { recordingOf } from './arbitrary-recording';

/** What the taps of `tapped` are called. */
export const TAPPED = 'Tap button “Board all”';
const EVERY_MS = 2000;
const AROUND_MS = 8;

/** A recording in which one button was tapped, once for each of some delays. Milliseconds. */
export function tapped(...delaysMs: readonly number[]): Recording {
  return recordingOf(
    delaysMs.map((durationMs, at): Row => {
      const startMs = EVERY_MS * (at + 1);
      return {
        kind: 'input',
        thread: 0,
        startMs,
        durationMs,
        type: 'click',
        interaction: at + 1,
        target: 'button “Board all”',
        processingStartMs: startMs + AROUND_MS,
        processingEndMs: startMs + Math.max(AROUND_MS, durationMs - AROUND_MS),
      };
    }),
  );
}
