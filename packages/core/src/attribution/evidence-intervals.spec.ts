import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EvidenceIntervals } from './evidence-intervals';
import type { Evidence } from './evidence';

const RANGE = { startMs: 0, endMs: 1000 };
const arbitraryClaims = fc.array(
  fc.record({
    startMs: fc.integer({ min: -100, max: 1100 }),
    lengthMs: fc.integer({ min: 0, max: 300 }),
    priority: fc.integer({ min: 1, max: 7 }),
  }),
  { maxLength: 40 },
);

interface Stretch {
  readonly startMs: number;
  readonly endMs: number;
  readonly evidence: Evidence | undefined;
}

function swept(intervals: readonly { startMs: number; lengthMs: number; priority: number }[]): Stretch[] {
  const made = new EvidenceIntervals(RANGE);
  intervals.forEach(({ startMs, lengthMs, priority }, index) =>
    made.add(startMs, startMs + lengthMs, { kind: 'script', entry: index, pool: 0 }, priority),
  );
  const stretches: Stretch[] = [];
  made.sweep((startMs, endMs, evidence) => stretches.push({ startMs, endMs, evidence }));
  return stretches;
}

describe('intervals on a range', () => {
  it('are swept in order, without gap or overlap, over the whole range', () => {
    fc.assert(
      fc.property(arbitraryClaims, (intervals) => {
        let at = RANGE.startMs;
        for (const { startMs, endMs } of swept(intervals)) {
          expect(startMs).toBe(at);
          expect(endMs).toBeGreaterThan(startMs);
          at = endMs;
        }
        expect(at).toBe(RANGE.endMs);
      }),
    );
  });

  it('are won by the one that looks highest, at every moment, as a look at all of them says', () => {
    fc.assert(
      fc.property(arbitraryClaims, (intervals) => {
        for (const { startMs, endMs, evidence } of swept(intervals)) {
          const middle = (startMs + endMs) / 2;
          const there = intervals.filter(
            (claim) => claim.startMs < middle && claim.startMs + claim.lengthMs > middle,
          );
          if (there.length === 0) {
            expect(evidence).toBeUndefined();
            continue;
          }
          const highest = Math.max(...there.map(({ priority }) => priority));
          expect(evidence?.kind).toBe('script');
          const winner = intervals[(evidence as Extract<Evidence, { kind: 'script' }>).entry]!;
          expect(winner.priority).toBe(highest);
          expect(there).toContain(winner);
        }
      }),
    );
  });
});
