import { NO_STACK } from '../format/packed-samples';
import { closerOf } from '../recording/closer';
import type { Recording } from '../recording/recording';
import { callLogOf } from './call-log';
import { lensRange, type Lens } from './lens';
import { HIDDEN, lensNodes, type LensNodes } from './lens-nodes';
import { first, last } from '../lists/items';

/** All calls of one function under a lens, in order of time; a call inside another call of it is part of that. */
export interface Occurrences {
  readonly startsMs: Float64Array;
  readonly lengthsMs: Float64Array;
  /** Whether each is one call that was measured, or a stretch in which samples saw the function. */
  readonly exact: boolean;
  readonly statistics: OccurrenceStatistics | undefined;
}

/** Milliseconds. */
export interface OccurrenceStatistics {
  readonly count: number;
  readonly totalMs: number;
  readonly shortestMs: number;
  readonly medianMs: number;
  /** 75th and 95th percentile, nearest rank. */
  readonly p75Ms: number;
  readonly p95Ms: number;
  readonly longestMs: number;
}

/** Value below which a share of sorted values lies, nearest rank. */
export function percentile(sorted: ArrayLike<number>, share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.ceil(share * sorted.length) - 1))]!;
}

export function statisticsOf(lengthsMs: Float64Array): OccurrenceStatistics | undefined {
  if (lengthsMs.length === 0) return undefined;
  const sorted = lengthsMs.slice().sort();
  return {
    count: sorted.length,
    totalMs: sorted.reduce((sum, ms) => sum + ms, 0),
    shortestMs: first(sorted),
    medianMs: percentile(sorted, 0.5),
    p75Ms: percentile(sorted, 0.75),
    p95Ms: percentile(sorted, 0.95),
    longestMs: last(sorted),
  };
}

/** For each node whether it is one of the function that has no other of it around it. */
function outermostNodes({ nodes }: LensNodes, functionId: number): Uint8Array {
  const inside = new Uint8Array(nodes.length);
  const outermost = new Uint8Array(nodes.length);
  for (let node = 0; node < nodes.length; node++) {
    const parent = nodes.parentOf(node);
    const isInside = parent !== NO_STACK && inside[parent] === 1;
    if (nodes.functionOf(node) === functionId) {
      inside[node] = 1;
      if (!isInside) outermost[node] = 1;
    } else if (isInside) inside[node] = 1;
  }
  return outermost;
}

/** @param functionId a canonical id, as the tables of calls give them */
export function occurrencesOf(recording: Recording, lens: Lens, functionId: number): Occurrences {
  const log = callLogOf(recording, lens.thread);
  const nodes = lensNodes(recording, { ...lens, focus: [] });
  const wanted = outermostNodes(nodes, functionId);
  const { startMs, endMs } = lensRange(recording, lens);
  const minUs = lens.minMs * 1000;
  const closer = closerOf(recording);
  for (const [spans, exact] of [
    [log.exact, true],
    [log.sampled, false],
  ] as const) {
    const startsMs: number[] = [];
    const lengthsMs: number[] = [];
    spans.eachOverlapping(startMs * 1000, endMs * 1000, (index) => {
      const stack = spans.stacks[index]!;
      const node = nodes.opens[stack]!;
      if (node === HIDDEN || wanted[node] === 0) return;
      if (exact && closer?.isWithin(stack) === false) return;
      const lengthUs = spans.endsUs[index]! - spans.startsUs[index]!;
      if (lengthUs < minUs) return;
      startsMs.push(spans.startsUs[index]! / 1000);
      lengthsMs.push(lengthUs / 1000);
    });
    if (startsMs.length === 0 && exact) continue;
    const lengths = Float64Array.from(lengthsMs);
    return {
      startsMs: Float64Array.from(startsMs),
      lengthsMs: lengths,
      exact,
      statistics: statisticsOf(lengths),
    };
  }
  throw new RangeError('a thread has two sets of calls');
}

/**
 * How much of each step of a range was within one of them, 0 to 1.
 * @param occurrences apart from each other, in order of time; milliseconds
 * @param steps number of steps, 1 or more
 */
export function sharesOver(
  { startsMs, lengthsMs }: Pick<Occurrences, 'startsMs' | 'lengthsMs'>,
  range: { startMs: number; endMs: number },
  steps: number,
): Float32Array {
  const shares = new Float32Array(steps);
  const stepMs = (range.endMs - range.startMs) / steps;
  for (let at = 0; at < startsMs.length; at++) {
    const from = Math.max(0, (startsMs[at]! - range.startMs) / stepMs);
    const to = Math.min(steps, (startsMs[at]! + lengthsMs[at]! - range.startMs) / stepMs);
    for (let step = Math.floor(from); step < to; step++)
      shares[step]! += Math.min(to, step + 1) - Math.max(from, step);
  }
  return shares;
}

/** How often something began in each step of a range. @param steps number of steps, 1 or more */
export function rateOver(
  startsMs: ArrayLike<number>,
  range: { startMs: number; endMs: number },
  steps: number,
): Uint32Array {
  const counts = new Uint32Array(steps);
  const stepMs = (range.endMs - range.startMs) / steps;
  for (let at = 0; at < startsMs.length; at++) {
    const step = Math.floor((startsMs[at]! - range.startMs) / stepMs);
    if (step >= 0 && step < steps) counts[step]!++;
  }
  return counts;
}
