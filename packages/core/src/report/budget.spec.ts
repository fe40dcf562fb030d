import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TAPPED, tapped } from '../testing/tapped';
import { recorded } from '../testing/recorded';
import { checkBudget, redrawRatesIn } from './budget';
import { budgetFrom } from './budget-from';
import { budgetSchema } from './budget-schema';

const allowing = (ms: number) => budgetSchema.cast({ responses: [{ label: '*', ms }] });

describe('a budget of several recordings', () => {
  it('is held by the worst of all repeats, or by their median', () => {
    const all = [tapped(96, 104, 400), tapped(104, 112)];
    expect(checkBudget(all, allowing(200))).toMatchObject([{ found: 400, kept: false }]);
    expect(checkBudget(all, allowing(200), 'median')).toMatchObject([
      { what: `Response to: ${TAPPED}`, found: 104, kept: true },
    ]);
    expect(checkBudget(all, allowing(100), 'median')).toMatchObject([{ kept: false }]);
  });

  it('counts how often a second an element is written to', () => {
    const one = recorded('tide-chart');
    const limits = (redraws: number) => budgetSchema.cast({ redrawsASecond: [{ element: '*', redraws }] });
    const strict = checkBudget(one, limits(0));
    expect(strict.length).toBeGreaterThan(0);
    expect(strict.every(({ kept, unit }) => kept === false && unit === 'a second')).toBe(true);
    expect(checkBudget(one, limits(1000)).every(({ kept }) => kept)).toBe(true);
    expect(
      checkBudget(one, budgetSchema.cast({ redrawsASecond: [{ element: 'no such', redraws: 0 }] })),
    ).toEqual([]);
  });
});

describe('a budget made from recordings', () => {
  it('is kept by them, whatever the margin, and exceeded by what is worse by more than it', () => {
    const aLoad = fc.array(fc.integer({ min: 2, max: 60 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(
        fc.array(aLoad, { minLength: 1, maxLength: 3 }),
        fc.constantFrom(0, 0.1, 0.5),
        fc.constantFrom('worst', 'median'),
        (loads, margin, by) => {
          const recordings = loads.map((steps) => tapped(...steps.map((step) => step * 8)));
          const budget = budgetFrom(recordings, { margin, by });
          expect(checkBudget(recordings, budget, by).every(({ kept }) => kept)).toBe(true);
          const slower = loads.map((steps) => tapped(...steps.map((step) => Math.ceil(step * 1.7) * 8 + 16)));
          const response = checkBudget(slower, budget, by).find(({ what }) => what.startsWith('Response'));
          expect(response!.kept).toBe(false);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('holds each element to how often it was written to, any other to the most of them, and quiet ranges', () => {
    const chart = recorded('tide-chart');
    const rates = redrawRatesIn(chart).filter(([element, rate]) => element !== undefined && rate > 1);
    expect(rates.length).toBeGreaterThan(0);
    const [element, rate] = rates[0]!;
    const budget = budgetFrom([chart], { margin: 0.1, by: 'worst' });
    expect(checkBudget(chart, budget).every(({ kept }) => kept)).toBe(true);
    const allowed = budget.redrawsASecond!.find((one) => one.element === element)!.redraws;
    expect(allowed).toBeGreaterThanOrEqual(rate * 1.1);
    expect(allowed).toBeLessThan(rate * 1.1 + 0.1);
    const others = budget.redrawsASecond!.find((one) => one.element === '*')!.redraws;
    expect(others).toBeLessThan(allowed);
    const elsewhere = { ...budget, redrawsASecond: [{ element: '*', redraws: others }] };
    expect(checkBudget(chart, elsewhere).find(({ what }) => what === `Redraws of ${element}`)).toMatchObject({
      kept: false,
    });

    const { startMs, endMs } = chart.range;
    const marked = { ...chart, header: { ...chart.header, quiet: [{ startMs, endMs }] } };
    const quiet = budgetFrom([marked], { margin: 0, by: 'worst' });
    expect(quiet.quiet!.redraws).toBeGreaterThan(0);
    expect(checkBudget(marked, quiet).every(({ kept }) => kept)).toBe(true);
    expect(budget.quiet).toBeUndefined();
  });

  it('holds a recording of the demo to what it was, and tells a fault that comes back', () => {
    const budget = budgetFrom([recorded('board-all-mended')], { margin: 0.1, by: 'worst' });
    expect(budgetSchema.isValidSync(budget, { strict: true })).toBe(true);
    expect(checkBudget(recorded('board-all-mended'), budget).every(({ kept }) => kept)).toBe(true);
    expect(checkBudget(recorded('board-all'), budget).some(({ kept }) => kept === false)).toBe(true);
  });
});
