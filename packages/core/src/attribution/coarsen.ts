import type { TimeRange } from '../recording/recording';
import type { Segment } from './segments';

/**
 * Segments for a drawing that can show no more than so many steps: each step with several of them becomes one, of
 * the kind that took most of it. A segment that fills its steps is kept as it is.
 */
export function coarsen(segments: readonly Segment[], range: TimeRange, steps: number): Segment[] {
  if (segments.length <= steps) return [...segments];
  const stepMs = (range.endMs - range.startMs) / steps;
  const coarse: Segment[] = [];
  let at = 0;
  while (at < segments.length) {
    const first = segments[at]!;
    const step = Math.floor((first.startMs - range.startMs) / stepMs);
    const stepEndMs = range.startMs + (step + 1) * stepMs;
    let next = at + 1;
    let longest = first;
    const lengths = new Map<string, number>();
    const add = (segment: Segment) => {
      const key = `${segment.stack} ${segment.activity} ${segment.entry}`;
      const sum = (lengths.get(key) ?? 0) + segment.endMs - segment.startMs;
      lengths.set(key, sum);
      return sum;
    };
    let most = add(first);
    for (; next < segments.length && segments[next]!.endMs <= stepEndMs; next++) {
      const sum = add(segments[next]!);
      if (sum <= most) continue;
      most = sum;
      longest = segments[next]!;
    }
    coarse.push({ ...longest, startMs: first.startMs, endMs: segments[next - 1]!.endMs });
    at = next;
  }
  return coarse;
}
