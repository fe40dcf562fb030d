import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { coreLens, lensQuery, readLens, type LensQuery } from './lens-state';

const asQuery = (query: Record<string, string | number | null>): LensQuery =>
  Object.fromEntries(
    Object.entries(query).flatMap(([name, value]) => (value === null ? [] : [[name, String(value)]])),
  );

describe('the lens in the address', () => {
  it('is the same after it has been written and read', () => {
    fc.assert(
      fc.property(
        fc.record({
          range: fc.option(
            fc
              .tuple(fc.nat(100_000), fc.integer({ min: 1, max: 100_000 }))
              .map(([startMs, length]) => ({ startMs, endMs: startMs + length })),
            { nil: undefined },
          ),
          thread: fc.nat(9),
          foldLibraries: fc.boolean(),
          foldRecursion: fc.boolean(),
          minMs: fc.nat(500),
          focus: fc.uniqueArray(fc.integer({ min: -9, max: 100_000 }), { maxLength: 5 }),
          text: fc.string(),
          slower: fc.integer({ min: 1, max: 20 }),
        }),
        (lens) => {
          expect(readLens(asQuery(lensQuery(lens)))).toEqual(lens);
        },
      ),
    );
  });

  it('leaves out what makes no sense', () => {
    expect(readLens({ from: '90', to: '10', min: '-4', focus: 'fold', thread: 'x', slower: '0.5' })).toEqual(
      readLens({}),
    );
  });

  it('folds libraries unless they are opened', () => {
    expect(coreLens(readLens({})).foldLibraries).toBe(true);
    expect(coreLens(readLens({ libraries: 'open' })).foldLibraries).toBe(false);
  });
});
