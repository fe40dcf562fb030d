import { BREAKDOWN_PARTS, type TimeBreakdown } from '../attribution/time-breakdown';

/**
 * How long a stretch might last on a device that takes longer for all it computes: an estimate, as caches, memory
 * and the display differ too. What is only waited for takes as long as it took.
 * @param lengthMs of the stretch, as recorded
 * @param idleMs of it, in which the thread did nothing
 * @param factor how many times as long work takes
 */
export function lengthOnSlower(lengthMs: number, idleMs: number, factor: number): number {
  return (lengthMs - idleMs) * factor + idleMs;
}

/** A blame as it might be on a slower device. Its parts still sum to its total. */
export function blameOnSlower(blame: TimeBreakdown, factor: number): TimeBreakdown {
  const parts = BREAKDOWN_PARTS.map(
    (part) => [part, blame[part] * (part === 'idleMs' ? 1 : factor)] as const,
  );
  const totalMs = parts.reduce((sum, [, ms]) => sum + ms, 0);
  return { ...(Object.fromEntries(parts) as Record<(typeof BREAKDOWN_PARTS)[number], number>), totalMs };
}

/** How many times slower a scripted browser can be had to run. */
export const SLOWINGS = [2, 4, 6];
