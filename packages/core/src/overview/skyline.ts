import { BLAME_PARTS, blamePart, type BlamePart } from '../blame/blame';
import { partition } from '../blame/partition';
import { MAIN_THREAD, type Recording } from '../recording/recording';

/**
 * Time known to be busy over a whole recording, in equal steps: one column of milliseconds for each kind of
 * work. What nobody looked at counts as neither busy nor idle.
 */
export interface Skyline {
  readonly stepMs: number;
  readonly steps: number;
  readonly parts: Readonly<Record<Exclude<BlamePart, 'idleMs'>, Float32Array>>;
}

/** @param steps number of columns, 1 or more */
export function skylineOf(recording: Recording, steps: number): Skyline {
  const lengthMs = Math.max(1, recording.range.endMs);
  const stepMs = lengthMs / steps;
  const busyParts = BLAME_PARTS.filter((part) => part !== 'idleMs');
  const parts = Object.fromEntries(
    busyParts.map((part) => [part, new Float32Array(steps)]),
  ) as Skyline['parts'];
  for (const segment of partition(recording, MAIN_THREAD, recording.range)) {
    if (segment.activity === 'unexplained' && segment.certainty === 'inferred') continue;
    const part = blamePart(segment);
    if (part === 'idleMs') continue;
    const column = parts[part];
    const last = Math.min(steps - 1, Math.floor(segment.endMs / stepMs));
    for (let step = Math.floor(segment.startMs / stepMs); step <= last; step++) {
      const overlap = Math.min(segment.endMs, (step + 1) * stepMs) - Math.max(segment.startMs, step * stepMs);
      column[step] = column[step]! + Math.max(0, overlap);
    }
  }
  return { stepMs, steps, parts };
}
