import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from './random';
import { medianShiftOf, signChance, smallestSignChance } from './sign-test';

/** The same chance by going through every way to give signs. */
function byAllSigns(differences: readonly number[]): number {
  const count = differences.filter((one) => one !== 0).length;
  const more = differences.filter((one) => one > 0).length;
  const seen = Math.abs(more - count / 2);
  let further = 0;
  for (let mask = 0; mask < 2 ** count; mask++) {
    const ones = mask.toString(2).replaceAll('0', '').length;
    if (Math.abs(ones - count / 2) >= seen) further++;
  }
  return further / 2 ** count;
}

const differences = fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 1, maxLength: 10 });

describe('the sign test', () => {
  it('gives the chance that going through all signs gives', () => {
    fc.assert(
      fc.property(differences, (some) => {
        expect(signChance(some)).toBeCloseTo(byAllSigns(some), 12);
      }),
    );
  });

  it('gives the smallest chance where all differ the same way, and says it beforehand', () => {
    const all = Array.from({ length: 12 }, (_, at) => at + 1);
    expect(signChance(all)).toBe(smallestSignChance(12));
    expect(signChance(all.map((one) => -one))).toBe(2 / 4096);
    expect(signChance([0, 0])).toBe(1);
  });

  it('lets nothing weigh more that went far off', () => {
    const near = [1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, -2];
    expect(signChance(near.with(-1, -2000))).toBe(signChance(near));
  });
});

describe('the median of paired differences', () => {
  it('lies in its interval, which is one of the differences at either end', () => {
    fc.assert(
      fc.property(differences, (some) => {
        const { difference, low, high } = medianShiftOf(some, 0.05);
        expect(low).toBeLessThanOrEqual(difference);
        expect(difference).toBeLessThanOrEqual(high);
        expect(some).toContain(low);
        expect(some).toContain(high);
      }),
    );
  });

  it('misses the true median in at most 5 of 100 cases, lopsided as they are', () => {
    const random = seededRandom(5);
    let missed = 0;
    for (let round = 0; round < 1000; round++) {
      const { low, high } = medianShiftOf(
        Array.from({ length: 15 }, () => -Math.log(random())),
        0.05,
      );
      if (low > Math.LN2 || high < Math.LN2) missed++;
    }
    expect(missed).toBeLessThanOrEqual(50);
  });
});
