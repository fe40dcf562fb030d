import { observedCapture } from './observed';

const MAX_NAME = 120;

function spanCapture(type: 'mark' | 'measure') {
  return observedCapture(type, (entry, session) => {
    session.lasted('span', entry.startTime, entry.duration, {
      type,
      name: entry.name.slice(0, MAX_NAME),
    });
  });
}

/** Marks and measures the app sets itself (W3C User Timing). */
export const marks = spanCapture('mark');
export const measures = spanCapture('measure');
