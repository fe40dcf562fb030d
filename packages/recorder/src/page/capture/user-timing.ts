import { observedCapture } from './observed';

const LONGEST_NAME = 120;

function spanCapture(type: 'mark' | 'measure') {
  return observedCapture(type, (entry, session) => {
    session.emit({
      kind: 'span',
      thread: session.thread,
      startMs: session.time(entry.startTime),
      durationMs: Math.round(entry.duration * 1000) / 1000,
      type,
      name: entry.name.slice(0, LONGEST_NAME),
    });
  });
}

/** Marks and measures the app sets itself (W3C User Timing). */
export const marks = spanCapture('mark');
export const measures = spanCapture('measure');
