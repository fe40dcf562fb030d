import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from './random';
import { theilSen } from './theil-sen';

const line = (slope: number, start: number, count: number) => ({
  xs: Array.from({ length: count }, (_, index) => index),
  ys: Array.from({ length: count }, (_, index) => start + slope * index),
});

describe('the robust slope', () => {
  it('of a straight line is its slope, whatever the line', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: -100, max: 100 }),
        fc.integer({ min: 3, max: 60 }),
        (slope, start, count) => {
          const { xs, ys } = line(slope, start, count);
          expect(theilSen(xs, ys)!.slope).toBeCloseTo(slope, 9);
        },
      ),
    );
  });

  it('lies within its interval, and is turned around with the values', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 500 }), { minLength: 3, maxLength: 80 }), (ys) => {
        const xs = ys.map((_, index) => index);
        const { slope, low, high } = theilSen(xs, ys)!;
        expect(low).toBeLessThanOrEqual(slope);
        expect(high).toBeGreaterThanOrEqual(slope);
        const turned = theilSen(
          xs,
          ys.map((y) => -y),
        )!;
        expect(turned.slope).toBeCloseTo(-slope, 9);
      }),
    );
  });

  it('is not led astray by a few values that stand out', () => {
    const { xs, ys } = line(2, 10, 30);
    ys[4] = 4000;
    ys[17] = -900;
    expect(theilSen(xs, ys)!.slope).toBeCloseTo(2, 1);
  });

  it('has an interval with zero in it where there is only noise', () => {
    const random = seededRandom(4);
    const ys = Array.from({ length: 60 }, () => random() * 100);
    const { low, high } = theilSen(
      ys.map((_, index) => index),
      ys,
    )!;
    expect(low).toBeLessThan(0);
    expect(high).toBeGreaterThan(0);
  });

  it('is not given for fewer than three points, or for points above each other', () => {
    expect(theilSen([0, 1], [0, 1])).toBeUndefined();
    expect(theilSen([1, 1, 1], [0, 1, 2])).toBeUndefined();
  });

  it('thins very many points', () => {
    const { xs, ys } = line(3, 0, 5000);
    expect(theilSen(xs, ys)!.slope).toBeCloseTo(3, 9);
  });
});
