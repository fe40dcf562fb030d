import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BREAKDOWN_PARTS, type TimeBreakdown, type BreakdownPart } from '../attribution/time-breakdown';
import { measureCalculation, slowerBy } from './calculation';
import { blameOnSlower, lengthOnSlower } from './slower';

const aBlame: fc.Arbitrary<TimeBreakdown> = fc
  .tuple(...BREAKDOWN_PARTS.map(() => fc.double({ min: 0, max: 500, noNaN: true })))
  .map((lengths) => ({
    ...(Object.fromEntries(BREAKDOWN_PARTS.map((part, at) => [part, lengths[at]!])) as Record<
      BreakdownPart,
      number
    >),
    totalMs: lengths.reduce((sum, ms) => sum + ms, 0),
  }));

describe('a slower device', () => {
  it('is estimated to take a set number of times as long for work, and as long for waiting', () => {
    expect(lengthOnSlower(300, 100, 4)).toBe(900);
    fc.assert(
      fc.property(aBlame, fc.double({ min: 1, max: 20, noNaN: true }), (blame, factor) => {
        const slower = blameOnSlower(blame, factor);
        expect(slower.idleMs).toBe(blame.idleMs);
        expect(slower.scriptOwnMs).toBe(blame.scriptOwnMs * factor);
        expect(BREAKDOWN_PARTS.reduce((sum, part) => sum + slower[part], 0)).toBeCloseTo(slower.totalMs, 6);
        expect(slower.totalMs).toBeCloseTo(lengthOnSlower(blame.totalMs, blame.idleMs, factor), 6);
        expect(blameOnSlower(blame, 1).totalMs).toBeCloseTo(blame.totalMs, 6);
      }),
    );
  });

  it('is told by a set calculation, at its best of several tries', () => {
    let asked = 0;
    const tries = [50, 31, 12, 40];
    const clock = () => (asked++ % 2 === 0 ? 0 : (tries[(asked >> 1) - 1] ?? 90));
    expect(measureCalculation(clock)).toBe(12);
    expect(slowerBy(41, 10)).toBe(4.1);
  });
});
