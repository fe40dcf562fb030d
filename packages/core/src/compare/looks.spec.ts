import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rankTest, smallestChance } from '../statistics/rank-test';
import { seededRandom } from '../statistics/random';
import { LEVEL } from '../statistics/level';
import { balancedOrder, planLooks, type Look } from './looks';

describe('looks at rounds that are still being made', () => {
  it('share the error rate, end with all rounds, and none is too early to tell anything', () => {
    expect(planLooks(8)).toEqual([
      { rounds: 6, level: LEVEL / 5 },
      { rounds: 8, level: LEVEL - LEVEL / 5 },
    ]);
    expect(planLooks(5)).toEqual([{ rounds: 5, level: LEVEL }]);
    for (let rounds = 1; rounds <= 40; rounds++) {
      const looks = planLooks(rounds);
      expect(looks.at(-1)!.rounds).toBe(rounds);
      expect(looks.reduce((sum, { level }) => sum + level, 0)).toBeCloseTo(LEVEL);
      for (const { rounds: done, level } of looks.slice(0, -1))
        expect(smallestChance(done, done)).toBeLessThanOrEqual(level);
    }
  });

  it('give a false verdict in at most 5 of 100 comparisons of a version with itself', () => {
    const random = seededRandom(11);
    const draw = () =>
      Math.exp(5 + 0.4 * (random() + random() + random() - 1.5)) + (random() < 0.1 ? 300 : 0);
    const looks = planLooks(8);
    let found = 0;
    const times = 2000;
    for (let time = 0; time < times; time++) {
      const [a, b] = [Array.from({ length: 8 }, draw), Array.from({ length: 8 }, draw)];
      const isTold = ({ rounds, level }: Look) => rankTest(a.slice(0, rounds), b.slice(0, rounds)).p <= level;
      if (looks.some(isTold)) found++;
    }
    expect(found / times).toBeLessThanOrEqual(0.05);
  });
});

describe('the order of loads', () => {
  it('has one of each side in every pair, and as many pairs begin with the one as with the other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer(), (rounds, seed) => {
        const order = balancedOrder(rounds, seededRandom(seed));
        expect(order).toHaveLength(2 * rounds);
        const firsts = order.filter((_, at) => at % 2 === 0);
        for (let at = 0; at < order.length; at += 2) expect(order[at]).not.toBe(order[at + 1]);
        const swapped = firsts.filter((side) => side === 'after').length;
        expect(swapped).toBe(Math.floor(rounds / 2));
      }),
    );
  });
});
