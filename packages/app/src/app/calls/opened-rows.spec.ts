import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readBox, readRows, rowsText } from './opened-rows';

describe('opened lines in an address', () => {
  it('are read as they were written', () => {
    const key = fc.array(fc.nat(9999), { minLength: 1, maxLength: 6 }).map((ids) => ids.join('/'));
    fc.assert(
      fc.property(fc.uniqueArray(key, { maxLength: 50 }), (keys) => {
        expect(readRows(rowsText(keys) ?? undefined)).toEqual(keys);
      }),
    );
  });

  it('are those opened last, and nothing where none is', () => {
    expect(rowsText([])).toBeNull();
    const many = Array.from({ length: 500 }, (_, at) => String(at));
    expect(readRows(rowsText(many)!)).toEqual(many.slice(300));
  });

  it('are left out where they make no sense', () => {
    expect(readRows('<b>,7,,x')).toEqual(['7']);
    expect([readBox('7'), readBox('x'), readBox(undefined)]).toEqual([7, undefined, undefined]);
  });
});
