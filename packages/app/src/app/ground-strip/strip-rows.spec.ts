import { BREAKDOWN_PARTS, type BreakdownPart } from '@nettle-patch/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ListedSting } from '../../workers/analysis/analysis-results';
import { stripRows } from './strip-rows';

const BUSY = BREAKDOWN_PARTS.filter((part) => part !== 'idleMs');

const content = fc
  .record({
    steps: fc.integer({ min: 1, max: 300 }),
    stepMs: fc.double({ min: 0.1, max: 40, noNaN: true }),
    busy: fc.array(fc.tuple(fc.nat(299), fc.constantFrom(...BUSY), fc.integer({ min: 1, max: 50 }))),
    stings: fc.array(fc.double({ min: 0, max: 1, noNaN: true })),
    inputs: fc.array(fc.double({ min: 0, max: 1, noNaN: true })),
  })
  .map(({ steps, stepMs, busy, stings, inputs }) => {
    const parts = Object.fromEntries(BUSY.map((part) => [part, new Float32Array(steps)])) as Record<
      Exclude<BreakdownPart, 'idleMs'>,
      Float32Array
    >;
    for (const [step, part, ms] of busy) if (step < steps) parts[part as keyof typeof parts][step]! += ms;
    const endMs = steps * stepMs;
    return {
      range: { startMs: 0, endMs },
      skyline: { steps, stepMs, parts },
      stings: stings.map((share) => ({ startMs: share * endMs }) as ListedSting),
      inputs: inputs.map((share) => share * endMs),
    };
  });

describe('the rows of the ground strip', () => {
  it('follow each other over the whole recording, no more than asked for', () => {
    fc.assert(
      fc.property(content, fc.integer({ min: 1, max: 30 }), (given, most) => {
        const rows = stripRows(given, most);
        expect(rows.length).toBeLessThanOrEqual(most);
        expect(rows[0]!.startMs).toBe(0);
        expect(rows.at(-1)!.endMs).toBeCloseTo(given.range.endMs, 6);
        rows.slice(1).forEach((row, at) => expect(row.startMs).toBeCloseTo(rows[at]!.endMs, 6));
      }),
    );
  });

  it('hold all busy time, every sting and every input once', () => {
    fc.assert(
      fc.property(content, fc.integer({ min: 1, max: 30 }), (given, most) => {
        const rows = stripRows(given, most);
        const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
        for (const part of BUSY) {
          const told = rows.flatMap(({ parts }) => parts.filter((one) => one.part === part));
          expect(sum(told.map(({ ms }) => ms))).toBeCloseTo(
            sum([...given.skyline.parts[part as keyof typeof given.skyline.parts]]),
            3,
          );
        }
        expect(sum(rows.map(({ stings }) => stings))).toBe(given.stings.length);
        expect(sum(rows.map(({ inputs }) => inputs))).toBe(given.inputs.length);
      }),
    );
  });
});
