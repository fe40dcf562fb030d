import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sortedRows } from './sorted-rows';

interface Cost {
  readonly name: string;
  readonly ms: number;
}
const COLUMNS = { name: ({ name }: Cost) => name, ms: ({ ms }: Cost) => ms };

describe('rows of a table', () => {
  it('are in the order of their column, either way, and none is lost', () => {
    const costs = fc.array(
      fc.record({ name: fc.string(), ms: fc.double({ min: 0, max: 9e3, noNaN: true }) }),
    );
    fc.assert(
      fc.property(costs, fc.constantFrom('name' as const, 'ms' as const), (rows, active) => {
        const up = sortedRows(rows, COLUMNS, { active, direction: 'asc' });
        const down = sortedRows(rows, COLUMNS, { active, direction: 'desc' });
        expect(new Set(up)).toEqual(new Set(rows));
        expect(down.map((row) => row[active])).toEqual(up.map((row) => row[active]).reverse());
      }),
    );
  });

  it('stay as they are where no column orders them', () => {
    const rows = [
      { name: 'b', ms: 1 },
      { name: 'a', ms: 2 },
    ];
    expect(sortedRows(rows, COLUMNS, { active: 'toString', direction: 'asc' })).toBe(rows);
    expect(sortedRows(rows, COLUMNS, { active: 'name', direction: '' })).toBe(rows);
  });
});
