import { packCounts, packSamples } from '@nettle-patch/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_STACK, countsRow, samplesRow } from '../../../../docs/reference-emitter.mjs';

describe('what the reference emitter packs', () => {
  const ids = fc.integer({ min: 0, max: 2 ** 31 });

  it('is what the program itself packs of samples', () => {
    const samples = fc.array(
      fc.tuple(fc.integer({ min: 0, max: 2 ** 45 }), fc.option(ids, { nil: NO_STACK })),
    );
    fc.assert(
      fc.property(samples, (pairs) => {
        const inOrder = pairs
          .map(([timeUs, stack]) => ({ timeUs, stack }))
          .sort((a, b) => a.timeUs - b.timeUs);
        const timesUs = inOrder.map(({ timeUs }) => timeUs);
        const stacks = inOrder.map(({ stack }) => stack);
        expect(samplesRow(1, 2, inOrder)).toEqual({
          kind: 'samples',
          ...packSamples(1, 2, { timesUs, stacks }),
        });
      }),
    );
  });

  it('is what the program itself packs of counts', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(ids, ids)), (pairs) => {
        const counts = new Map(pairs);
        const functions = [...counts.keys()].sort((a, b) => a - b);
        const columns = { functions, counts: functions.map((id) => counts.get(id)!) };
        expect(countsRow(1, 0, 1000, counts)).toEqual({ kind: 'counts', ...packCounts(1, 0, 1000, columns) });
      }),
    );
  });
});
