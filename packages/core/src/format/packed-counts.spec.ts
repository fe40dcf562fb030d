import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packCounts, unpackCounts } from './packed-counts';

const columns = fc
  .uniqueArray(fc.integer({ min: 0, max: 2 ** 31 - 1 }), { maxLength: 50 })
  .chain((ids) =>
    fc
      .array(fc.integer({ min: 0, max: 2 ** 31 - 1 }), { minLength: ids.length, maxLength: ids.length })
      .map((counts) => ({ functions: ids.sort((a, b) => a - b), counts })),
  );

describe('counts in a row', () => {
  it('are what they were before they were packed', () => {
    fc.assert(
      fc.property(columns, (given) => {
        expect(unpackCounts(packCounts(0, 10, 1000, given))).toEqual(given);
      }),
    );
  });

  it('are refused where the data holds another number of functions, or ends inside one', () => {
    const row = packCounts(0, 0, 1000, { functions: [7, 300], counts: [3, 2000] });
    expect(() => unpackCounts({ ...row, count: 3 })).toThrow('holds 2 functions, "count" says 3');
    expect(() => unpackCounts({ ...row, data: 'AAOl' })).toThrow(RangeError);
  });
});
