import { now } from './natives';

const MAX_READS = 1500;
const QUICK_READ_MS = 1e-4;

/** How long one reading of the clock takes, as measured now. Milliseconds. */
export function clockCost(): number {
  const beganMs = now();
  let read = 0;
  let edgeMs = beganMs;
  while (edgeMs === beganMs && read++ < MAX_READS) edgeMs = now();
  let endMs = edgeMs;
  for (read = 0; endMs === edgeMs && read < MAX_READS; read++) endMs = now();
  // A clock that does not step meanwhile steps seldom, and is read quickly.
  return endMs === edgeMs ? QUICK_READ_MS : (endMs - edgeMs) / read;
}
