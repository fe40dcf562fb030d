import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rankTest, smallestChance } from './rank-test';
import { shiftOf } from './shift';

/** The same chance by going through every way to part the values. */
function byAllWays(before: readonly number[], after: readonly number[]): number {
  const all = [...before, ...after];
  const rank = (value: number) => {
    const below = all.filter((one) => one < value).length;
    return below + (all.filter((one) => one === value).length + 1) / 2;
  };
  const ranks = all.map(rank);
  const middle = (after.length * (all.length + 1)) / 2;
  const sumOf = (members: readonly number[]) => members.reduce((sum, at) => sum + ranks[at]!, 0);
  const seen = Math.abs(sumOf(after.map((_, at) => before.length + at)) - middle);
  let [ways, further] = [0, 0];
  for (let mask = 0; mask < 2 ** all.length; mask++) {
    const members = all.flatMap((_, at) => ((mask >> at) & 1 ? [at] : []));
    if (members.length !== after.length) continue;
    ways++;
    if (Math.abs(sumOf(members) - middle) >= seen - 1e-9) further++;
  }
  return further / ways;
}

const side = fc.array(fc.integer({ min: 0, max: 8 }), { minLength: 1, maxLength: 5 });

describe('the rank test', () => {
  it('gives the chance that going through all ways gives, ties or not', () => {
    fc.assert(
      fc.property(side, side, (before, after) => {
        expect(rankTest(before, after).p).toBeCloseTo(byAllWays(before, after), 9);
      }),
    );
  });

  it('is the same either way round, and does not change when all values are stretched', () => {
    fc.assert(
      fc.property(side, side, (before, after) => {
        const { p } = rankTest(before, after);
        expect(rankTest(after, before).p).toBeCloseTo(p, 9);
        const stretched = (values: readonly number[]) => values.map((value) => value * 3 + 7);
        expect(rankTest(stretched(before), stretched(after)).p).toBeCloseTo(p, 9);
      }),
    );
  });

  it('can never reach 5 % with three against three, and can with four against four', () => {
    expect(smallestChance(3, 3)).toBeCloseTo(0.1);
    expect(smallestChance(4, 4)).toBeCloseTo(2 / 70);
    expect(rankTest([1, 2, 3], [4, 5, 6]).p).toBeCloseTo(0.1);
    expect(rankTest([1, 2, 3, 4], [5, 6, 7, 8]).p).toBeCloseTo(2 / 70);
    expect(smallestChance(0, 9)).toBe(1);
  });

  it('goes on without a jump where it is no longer exact', () => {
    const spread = (count: number, from: number) => Array.from({ length: count }, (_, at) => from + at * 3.1);
    const exact = rankTest(spread(30, 0), spread(30, 14)).p;
    const normal = rankTest(spread(31, 0), spread(31, 14)).p;
    expect(Math.abs(exact - normal)).toBeLessThan(0.03);
  });
});

describe('the shift between two sides', () => {
  it('of values that were all moved by the same is that, and lies within its interval', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 500 }), { minLength: 4, maxLength: 9 }),
        fc.integer({ min: -300, max: 300 }),
        (values, by) => {
          const { difference, low, high } = shiftOf(
            values,
            values.map((value) => value + by),
            0.05,
          );
          expect(difference).toBe(by);
          expect(low).toBeLessThanOrEqual(by);
          expect(high).toBeGreaterThanOrEqual(by);
        },
      ),
    );
  });

  it('has zero in its interval exactly where the test does not refuse it', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 4, maxLength: 7 }),
        fc.uniqueArray(fc.double({ min: 20, max: 140, noNaN: true }), { minLength: 4, maxLength: 7 }),
        (before, after) => {
          const { low, high } = shiftOf(before, after, 0.05);
          if (rankTest(before, after).p <= 0.05) expect(low > 0 || high < 0).toBe(true);
        },
      ),
    );
  });
});
