import { describe, expect, it, vi } from 'vitest';
import { backgroundFalseRate, verdictRates, versusRates } from '../testing/simulated-verdicts';

// Hundreds of comparisons are computed, however slow the machine is.
vi.setConfig({ testTimeout: 240_000 });

/** Of 200 comparisons at a true rate of 5 %, more than 17 come in less than 1 of 50 runs; the seed is fixed. */
const MAX_FALSE = 17 / 200;

describe('verdicts where nothing changed', () => {
  it.each([
    [3, 10],
    [4, 1],
    [5, 10],
    [8, 10],
    [12, 4],
  ])('are false in no more than a twentieth of comparisons: %d repeats, %d series', (repeats, series) => {
    const { anyFalse } = verdictRates({
      repeats,
      series,
      comparisons: 200,
      factor: 1,
      seed: repeats * 100 + series,
    });
    expect(anyFalse).toBeLessThanOrEqual(MAX_FALSE);
    if (repeats === 3) expect(anyFalse).toBe(0);
  });
});

describe('what goes on in the background of some loads and not of others', () => {
  it.each([
    [6, 5, 0.3],
    [8, 5, 0.6],
    [8, 1, 0.5],
  ])('is told of in no more than a twentieth: %d loads, %d series, in %d of loads', (loads, series, seen) => {
    const rate = backgroundFalseRate({ loads, series, seen, comparisons: 200, seed: loads * 10 + series });
    expect(rate).toBeLessThanOrEqual(MAX_FALSE);
  });
});

describe('a response that was halved', () => {
  it('is found in 9 of 10 comparisons of 8 against 8', () => {
    const { found } = verdictRates({ repeats: 8, series: 1, comparisons: 400, factor: 0.5, seed: 20 });
    expect(found).toBeGreaterThanOrEqual(0.9);
  });
});

describe('versus runs of loads that differ from each other by a tenth', () => {
  const trial = { repeats: 2, series: 5, comparisons: 200, drift: 0.1, rounds: 8 };

  it('are false in no more than a twentieth, though they are looked at twice', () => {
    const { anyFalse } = versusRates({ ...trial, factor: 1, seed: 3 });
    expect(anyFalse).toBeLessThanOrEqual(MAX_FALSE);
  });

  it('find a response that was halved, and end before all rounds are done', () => {
    const { found, rounds } = versusRates({ ...trial, repeats: 3, series: 1, factor: 0.5, seed: 4 });
    expect(found).toBeGreaterThanOrEqual(0.9);
    expect(rounds).toBeLessThan(8);
  });
});
