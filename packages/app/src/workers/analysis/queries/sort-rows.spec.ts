import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CallRow } from './call-queries';
import { sortRows, type CallColumn } from './sort-rows';

const row = (key: string, depth: number, selfMs: number, totalMs: number): CallRow => ({
  key,
  functionId: 0,
  name: key,
  place: '',
  owner: 'own',
  depth,
  selfMs,
  totalMs,
  count: 0,
  callsPerSecond: 0,
  isQuick: false,
  hasChildren: false,
  isOpen: false,
  isHit: false,
});

describe('the rows of a tree', () => {
  it('are sorted on every level, and stay under their caller', () => {
    const rows = [
      row('a', 0, 1, 90),
      row('a1', 1, 5, 30),
      row('a2', 1, 50, 50),
      row('b', 0, 9, 40),
      row('b1', 1, 3, 3),
    ];
    expect(sortRows(rows, { column: 'totalMs', isDescending: true }).map(({ key }) => key)).toEqual([
      'a',
      'a2',
      'a1',
      'b',
      'b1',
    ]);
    expect(sortRows(rows, { column: 'selfMs', isDescending: true }).map(({ key }) => key)).toEqual([
      'b',
      'b1',
      'a',
      'a2',
      'a1',
    ]);
  });

  it('stand the other way round where the least is wanted first, and in order of letters by name', () => {
    const rows = [row('deck', 0, 1, 90), row('bow', 0, 7, 30), row('rail', 0, 3, 60), row('aft', 1, 2, 2)];
    const keys = (column: CallColumn, isDescending: boolean) =>
      sortRows(rows, { column, isDescending }).map(({ key }) => key);
    expect(keys('selfMs', false)).toEqual(['deck', 'rail', 'aft', 'bow']);
    expect(keys('name', false)).toEqual(['bow', 'deck', 'rail', 'aft']);
    expect(keys('name', true)).toEqual(['rail', 'aft', 'deck', 'bow']);
  });

  it('are all still there, each level from the largest down', () => {
    const steps = fc.array(fc.record({ deeper: fc.boolean(), up: fc.nat(3), ms: fc.nat(1000) }), {
      maxLength: 60,
    });
    fc.assert(
      fc.property(steps, (made) => {
        let depth = -1;
        const rows = made.map(({ deeper, up, ms }, index) => {
          depth = deeper || depth < 0 ? depth + 1 : Math.max(0, depth - up);
          return row(String(index), depth, ms, ms);
        });
        const sorted = sortRows(rows, { column: 'totalMs', isDescending: true });
        expect(sorted.map(({ key }) => Number(key)).sort((a, b) => a - b)).toEqual(
          rows.map((_, index) => index),
        );
        sorted.forEach((one, at) => {
          const next = sorted.findIndex((other, index) => index > at && other.depth <= one.depth);
          if (next >= 0 && sorted[next]!.depth === one.depth) {
            expect(sorted[next]!.totalMs).toBeLessThanOrEqual(one.totalMs);
          }
        });
      }),
    );
  });
});
