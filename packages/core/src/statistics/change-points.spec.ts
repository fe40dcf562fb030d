import { describe, expect, it } from 'vitest';
import { changePoints } from './change-points';
import { seededRandom } from './random';

/** Delays of a row of recordings: levels with skewed noise, and now and then one several times as long. */
function delays(levels: readonly (readonly [count: number, ms: number])[], seed: number): number[] {
  const random = seededRandom(seed);
  return levels.flatMap(([count, ms]) =>
    Array.from({ length: count }, () => ms * Math.exp(0.3 * random()) * (random() < 0.05 ? 4 : 1)),
  );
}

describe('changes of level', () => {
  it('are told in at most 6 of 100 rows without any', () => {
    let told = 0;
    for (let seed = 1; seed <= 300; seed++)
      if (changePoints(delays([[14, 100]], seed), 0.05).length > 0) told++;
    expect(told).toBeLessThanOrEqual(18);
  });

  it('are told where they are to one or two values, with both levels, in at least 9 of 10 rows', () => {
    let right = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const [first, ...others] = changePoints(
        delays(
          [
            [12, 100],
            [12, 160],
          ],
          seed,
        ),
        0.05,
      );
      if (first === undefined || others.length > 0 || Math.abs(first.at - 12) > 2) continue;
      if (first.before < 130 && first.after > 155) right++;
    }
    expect(right).toBeGreaterThanOrEqual(90);
  });

  it('are told one by one: worse, and better again', () => {
    const found = changePoints(
      delays(
        [
          [12, 100],
          [12, 200],
          [12, 90],
        ],
        3,
      ),
      0.05,
    );
    expect(found).toHaveLength(2);
    for (const [index, at] of [12, 24].entries())
      expect(Math.abs(found[index]!.at - at)).toBeLessThanOrEqual(1);
    expect(found[0]!.after).toBe(found[1]!.before);
  });

  it('are not told of a few values, of none, or of equal ones', () => {
    expect(changePoints([1, 1, 9, 9], 0.05)).toEqual([]);
    expect(changePoints([], 0.05)).toEqual([]);
    expect(
      changePoints(
        Array.from({ length: 30 }, () => 7),
        0.05,
      ),
    ).toEqual([]);
  });

  it('take no long time, however many values there are', () => {
    const many = delays(
      [
        [1500, 100],
        [1500, 101],
      ],
      5,
    );
    const begun = performance.now();
    changePoints(many.slice(0, 300), 0.05);
    const fewMs = performance.now() - begun;
    const again = performance.now();
    changePoints(many, 0.05);
    expect(performance.now() - again).toBeLessThan(Math.max(100, 60 * fewMs));
  });
});
