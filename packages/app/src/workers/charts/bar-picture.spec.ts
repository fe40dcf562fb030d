import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { barAt } from './bar-picture';

describe('the bar at a place', () => {
  it('is the one whose part of the width it is, and none beside them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 90 }),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 120 }),
        fc.integer({ min: -20, max: 600 }),
        (left, width, bars, x) => {
          const area = { left, right: left + width };
          const at = barAt(area, bars, x);
          if (x < left || x >= left + width) expect(at).toBeUndefined();
          else {
            expect(at).toBeGreaterThanOrEqual(0);
            expect(at).toBeLessThan(bars);
            expect(left + (at! * width) / bars).toBeLessThanOrEqual(x + 1e-9);
            expect(left + ((at! + 1) * width) / bars).toBeGreaterThan(x - 1e-9);
          }
        },
      ),
    );
  });

  it('is none where there are none', () => {
    expect(barAt({ left: 0, right: 100 }, 0, 50)).toBeUndefined();
  });
});
