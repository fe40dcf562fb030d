import { now } from './natives';

const MAX_READS = 1500;
const QUICK_READ_MS = 1e-4;
/** Something else may have run meanwhile: the look in which a reading took least holds. */
const LOOKS = 3;

/** What is known of the clock, in milliseconds. */
export interface ClockMeasure {
  /** How long one reading takes. */
  readonly readMs: number;
  /** By how much it goes on at a time; 0 where that is less than can be told so. */
  readonly stepMs: number;
}

function look(): ClockMeasure {
  const beganMs = now();
  let read = 0;
  let edgeMs = beganMs;
  while (edgeMs === beganMs && read++ < MAX_READS) edgeMs = now();
  let endMs = edgeMs;
  for (read = 0; endMs === edgeMs && read < MAX_READS; read++) endMs = now();
  // A clock that does not step meanwhile steps seldom, and is read quickly.
  if (endMs === edgeMs) return { readMs: QUICK_READ_MS, stepMs: QUICK_READ_MS * MAX_READS };
  return { readMs: (endMs - edgeMs) / read, stepMs: read > 1 ? endMs - edgeMs : 0 };
}

/** Measures the clock, as it is now. */
export function measureClock(): ClockMeasure {
  const looks = Array.from({ length: LOOKS }, look);
  return looks.reduce((least, one) => (one.readMs < least.readMs ? one : least));
}
