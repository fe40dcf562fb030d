import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { loadsOnOneSideChance, onOneSideChance } from './one-sided';
import { seededRandom } from './random';

const LEVEL = 0.05;
const DRAWS = 4000;
/** Of so many draws at a rate of 5 %, more come in less than 1 of 1,000 runs. */
const MAX_FALSE = 0.061;

/** How often something comes that comes so often on average (Knuth, The Art of Computer Programming, 3.4.1). */
function poisson(random: () => number, mean: number): number {
  const least = Math.exp(-mean);
  let [times, left] = [0, random()];
  while (left > least) {
    times++;
    left *= random();
  }
  return times;
}

describe('that something was seen on one side only', () => {
  it.each([1, 3, 4, 6, 10])('is told of no more than a twentieth where %d are usual on both', (mean) => {
    const random = seededRandom(mean);
    let told = 0;
    for (let draw = 0; draw < DRAWS; draw++) {
      const [a, b] = [poisson(random, mean), poisson(random, mean)];
      if (Math.min(a, b) === 0 && a + b > 0 && onOneSideChance(a + b, 0.5) <= LEVEL) told++;
    }
    expect(told / DRAWS).toBeLessThanOrEqual(MAX_FALSE);
  });

  it('says more the oftener it was seen, and less where the other side was watched for a short time', () => {
    expect(onOneSideChance(3, 0.5)).toBeCloseTo(0.25);
    expect(onOneSideChance(6, 0.5)).toBeCloseTo(2 / 64);
    expect(onOneSideChance(6, 0.9)).toBeGreaterThan(0.5);
    expect(onOneSideChance(0, 0.5)).toBe(1);
  });

  it('is, of loads, as likely as to draw them so', () => {
    // 3 of 6 and none of 6: 2 × (6 over 3) / (12 over 3).
    expect(loadsOnOneSideChance(3, 6, 6)).toBeCloseTo((2 * 20) / 220);
    expect(loadsOnOneSideChance(6, 6, 6)).toBeCloseTo(2 / 924);
    expect(loadsOnOneSideChance(6, 6, 2)).toBeCloseTo(1 / 28);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }), (n, m) => {
        for (let seen = 1; seen < n; seen++)
          expect(loadsOnOneSideChance(seen + 1, n, m)).toBeLessThanOrEqual(loadsOnOneSideChance(seen, n, m));
        expect(loadsOnOneSideChance(0, n, m)).toBe(1);
      }),
    );
  });
});
