import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isAscending, stableOrder } from './order';

const arbitraryValues = fc.array(
  fc.oneof(fc.integer({ min: 0, max: 20 }), fc.double({ min: -1e3, max: 3e9, noNaN: true })),
  { maxLength: 200 },
);

describe('the order of values', () => {
  it('ascends, holds every index once, and leaves equal values in the order they came', () => {
    fc.assert(
      fc.property(arbitraryValues, (values) => {
        const order = stableOrder(values);
        const expected = [...values.keys()].sort((a, b) => values[a]! - values[b]! || a - b);
        expect([...order]).toEqual(expected);
        expect(isAscending(Array.from(order, (index) => values[index]!))).toBe(true);
      }),
    );
  });

  it('is the same after 30 days as at the beginning', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 5_000_000 }), { maxLength: 100 }), (us) => {
        const later = us.map((value) => value / 1000 + 30 * 86_400_000);
        expect([...stableOrder(later)]).toEqual([...stableOrder(us)]);
      }),
    );
  });
});
