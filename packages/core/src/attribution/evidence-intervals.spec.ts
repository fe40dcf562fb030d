import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EvidenceIntervals } from './evidence-intervals';
import type { Evidence } from './evidence';

const RANGE = { startMs: 0, endMs: 1000 };
const arbitraryClaims = fc.array(
  fc.record({
    startMs: fc.integer({ min: -100, max: 1100 }),
    lengthMs: fc.integer({ min: 0, max: 300 }),
    closeness: fc.integer({ min: 1, max: 7 }),
  }),
  { maxLength: 40 },
);

interface Stretch {
  readonly startMs: number;
  readonly endMs: number;
  readonly evidence: Evidence | undefined;
}

function swept(claims: readonly { startMs: number; lengthMs: number; closeness: number }[]): Stretch[] {
  const made = new EvidenceIntervals(RANGE);
  claims.forEach(({ startMs, lengthMs, closeness }, index) =>
    made.add(startMs, startMs + lengthMs, { kind: 'script', entry: index, pool: 0 }, closeness),
  );
  const stretches: Stretch[] = [];
  made.sweep((startMs, endMs, evidence) => stretches.push({ startMs, endMs, evidence }));
  return stretches;
}

describe('claims on a range', () => {
  it('are swept in order, without gap or overlap, over the whole range', () => {
    fc.assert(
      fc.property(arbitraryClaims, (claims) => {
        let at = RANGE.startMs;
        for (const { startMs, endMs } of swept(claims)) {
          expect(startMs).toBe(at);
          expect(endMs).toBeGreaterThan(startMs);
          at = endMs;
        }
        expect(at).toBe(RANGE.endMs);
      }),
    );
  });

  it('are won by the one that looks closest, at every moment, as a look at all of them says', () => {
    fc.assert(
      fc.property(arbitraryClaims, (claims) => {
        for (const { startMs, endMs, evidence } of swept(claims)) {
          const middle = (startMs + endMs) / 2;
          const there = claims.filter(
            (claim) => claim.startMs < middle && claim.startMs + claim.lengthMs > middle,
          );
          if (there.length === 0) {
            expect(evidence).toBeUndefined();
            continue;
          }
          const closest = Math.max(...there.map(({ closeness }) => closeness));
          expect(evidence?.kind).toBe('script');
          const winner = claims[(evidence as Extract<Evidence, { kind: 'script' }>).entry]!;
          expect(winner.closeness).toBe(closest);
          expect(there).toContain(winner);
        }
      }),
    );
  });
});
