import { describe, expect, it } from 'vitest';
import { growthChance } from './growth';
import { holm } from './holm';
import { mannKendall } from './mann-kendall';
import { seededRandom } from './random';

/** Two draws of the standard normal distribution from two of the uniform one (Box and Muller). */
function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

type Shape = (share: number) => number;
const SHAPES: Record<string, Shape> = {
  flat: () => 1,
  'one step, as when a second chart is opened': (share) => (share < 0.6 ? 1 : 2),
  'a late step': (share) => (share < 0.8 ? 1 : 2.5),
  'a warm-up that comes to rest': (share) => 2 - Math.exp(-share * 12),
  'a start that was dearer': (share) => 1 + Math.exp(-share * 20),
};

/** Costs of a function in 40 stretches: a shape with skewed noise, each value held a little by the one before it. */
function costs(random: () => number, shape: Shape, stretches = 40): Float64Array {
  let held = 0;
  return Float64Array.from({ length: stretches }, (_, at) => {
    held = 0.3 * held + normal(random);
    return shape(at / stretches) * Math.exp(0.2 * held) * 20;
  });
}

/** The share of recordings of 20 functions, three of them of a shape and the others flat, in which any is told to creep. */
function falseCreeps(shape: Shape, recordings: number): number {
  const random = seededRandom(7);
  let told = 0;
  for (let recording = 0; recording < recordings; recording++) {
    const chances = Array.from({ length: 20 }, (_, at) =>
      growthChance(costs(random, at < 3 ? shape : () => 1)),
    );
    if (holm(chances, 0.05).some(Boolean)) told++;
  }
  return told / recordings;
}

describe('growth that goes on', () => {
  it.each(Object.entries(SHAPES))(
    'is told of %s in at most 5 of 100 recordings of 20 functions',
    (_name, shape) => {
      expect(falseCreeps(shape, 400)).toBeLessThanOrEqual(0.05);
    },
  );

  it('is told of a cost that grows four times as large in 7 of 10 recordings of 20 functions', () => {
    const random = seededRandom(11);
    let told = 0;
    for (let recording = 0; recording < 100; recording++) {
      const growing = growthChance(costs(random, (share) => 1 + 3 * share));
      const others = Array.from({ length: 19 }, () => growthChance(costs(random, () => 1)));
      if (holm([growing, ...others], 0.05)[0]) told++;
    }
    expect(told).toBeGreaterThanOrEqual(70);
  });

  it('is certain of a straight line, and never of a fall', () => {
    const line = Float64Array.from({ length: 30 }, (_, at) => at);
    expect(growthChance(line)).toBeLessThan(1e-6);
    expect(growthChance(line.map((value) => -value))).toBe(1);
    expect(mannKendall([3, 2, 1]).p).toBe(1);
  });

  it('is not told of a few values', () => {
    expect(growthChance(Float64Array.from({ length: 10 }, (_, at) => at))).toBe(1);
  });
});

describe('several tests', () => {
  it('hold by Holm, the smallest first, until one does not', () => {
    expect(holm([0.01, 0.04, 0.03], 0.05)).toEqual([true, false, false]);
    expect(holm([0.01, 0.02, 0.03], 0.05)).toEqual([true, true, true]);
    expect(holm([], 0.05)).toEqual([]);
  });
});
