import { BREAKDOWN_PARTS, breakdownPart, type BreakdownPart } from '../attribution/time-breakdown';
import { kindsOfRange } from '../attribution/range-breakdown';
import { KIND_CODES, kindOfCode } from '../attribution/segments';
import { MAIN_THREAD, type Recording } from '../recording/recording';

/**
 * Time known to be busy over a whole recording, in equal steps: one column of milliseconds for each kind of
 * work. What nobody looked at counts as neither busy nor idle.
 */
export interface Skyline {
  readonly stepMs: number;
  readonly steps: number;
  readonly parts: Readonly<Record<Exclude<BreakdownPart, 'idleMs'>, Float32Array>>;
}

/** The part each kind of segment counts towards; undefined for what is idle, or what nobody looked at. */
const PART_OF_KIND = Array.from({ length: KIND_CODES }, (_, code) => {
  const kind = kindOfCode(code);
  const part = breakdownPart(kind);
  return part === 'idleMs' || (kind.activity === 'unexplained' && kind.certainty === 'inferred')
    ? undefined
    : part;
});

/** @param steps number of columns, 1 or more */
export function skylineOf(recording: Recording, steps: number): Skyline {
  const lengthMs = Math.max(1, recording.range.endMs);
  const stepMs = lengthMs / steps;
  const busyParts = BREAKDOWN_PARTS.filter((part) => part !== 'idleMs');
  const parts = Object.fromEntries(
    busyParts.map((part) => [part, new Float32Array(steps)]),
  ) as Skyline['parts'];
  for (let step = 0; step < steps; step++) {
    const range = { startMs: step * stepMs, endMs: Math.min((step + 1) * stepMs, recording.range.endMs) };
    kindsOfRange(recording, MAIN_THREAD, range).forEach((ms, code) => {
      const part = PART_OF_KIND[code];
      if (ms > 0 && part !== undefined) parts[part][step] = parts[part][step]! + ms;
    });
  }
  return { stepMs, steps, parts };
}
