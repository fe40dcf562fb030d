import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { around, moved, panned, showing, zoomed } from './time-window';

const WHOLE = { startMs: 0, endMs: 10_000 };
const shownRange = fc
  .tuple(fc.double({ min: 0, max: 9000, noNaN: true }), fc.double({ min: 0.1, max: 1000, noNaN: true }))
  .map(([startMs, lengthMs]) => ({ startMs, endMs: startMs + lengthMs }));
const lengthOf = ({ startMs, endMs }: { startMs: number; endMs: number }) => endMs - startMs;

function expectWithin(range: { startMs: number; endMs: number }): void {
  expect(range.startMs).toBeGreaterThanOrEqual(0);
  expect(range.endMs).toBeLessThanOrEqual(10_000 + 1e-6);
  expect(lengthOf(range)).toBeGreaterThan(0);
}

describe('the stretch of time that is shown', () => {
  it('stays within the recording, whatever is done', () => {
    fc.assert(
      fc.property(
        shownRange,
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (shown, factor, share) => {
          const atMs = (shown.startMs + shown.endMs) / 2;
          expectWithin(zoomed(WHOLE, shown, atMs, factor));
          expectWithin(panned(WHOLE, shown, share));
          expectWithin(around(WHOLE, shown));
        },
      ),
    );
  });

  it('keeps what is under the pointer where it is while zooming', () => {
    const shown = { startMs: 4000, endMs: 5000 };
    const next = zoomed(WHOLE, shown, 4250, 0.5);
    expect(lengthOf(next)).toBeCloseTo(500);
    expect((4250 - next.startMs) / lengthOf(next)).toBeCloseTo(0.25);
  });

  it('comes back after zooming in and out', () => {
    const shown = { startMs: 4000, endMs: 5000 };
    const back = zoomed(WHOLE, zoomed(WHOLE, shown, 4300, 0.25), 4300, 4);
    expect(back.startMs).toBeCloseTo(4000);
    expect(back.endMs).toBeCloseTo(5000);
  });

  it('keeps its length while moving, and stops at the ends', () => {
    const shown = { startMs: 100, endMs: 1100 };
    expect(panned(WHOLE, shown, 0.5)).toEqual({ startMs: 600, endMs: 1600 });
    expect(panned(WHOLE, shown, -1)).toEqual({ startMs: 0, endMs: 1000 });
  });

  it('moves to show a range, and only then', () => {
    const shown = { startMs: 4000, endMs: 5000 };
    expect(showing(WHOLE, shown, { startMs: 4100, endMs: 4200 })).toBe(shown);
    expect(showing(WHOLE, shown, { startMs: 6000, endMs: 6200 })).toEqual({ startMs: 5600, endMs: 6600 });
    expect(lengthOf(showing(WHOLE, shown, { startMs: 1000, endMs: 4000 }))).toBeCloseTo(3300);
  });
});

it('a range that is moved keeps its length and stays within the recording', () => {
  const times = fc.double({ min: 0, max: 10_000, noNaN: true });
  fc.assert(
    fc.property(times, times, fc.double({ min: -20_000, max: 20_000, noNaN: true }), (a, b, byMs) => {
      const one = { startMs: Math.min(a, b), endMs: Math.max(a, b) };
      const after = moved({ startMs: 0, endMs: 10_000 }, one, byMs);
      expect(after.endMs - after.startMs).toBeCloseTo(one.endMs - one.startMs, 6);
      expect(after.startMs).toBeGreaterThanOrEqual(0);
      expect(after.endMs).toBeLessThanOrEqual(10_000 + 1e-6);
    }),
  );
});
