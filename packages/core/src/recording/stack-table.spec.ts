import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_STACK } from '../format/packed-samples';
import { StackTable } from './stack-table';

describe('a table of stacks', () => {
  it('gives the same stack for the same calls, and another for any other', () => {
    const paths = fc.array(fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 6 }), {
      maxLength: 80,
    });
    fc.assert(
      fc.property(paths, (all) => {
        const table = new StackTable();
        const known = new Map<string, number>();
        for (const path of all) {
          const stack = path.reduce((parent, functionId) => table.calledFrom(parent, functionId), NO_STACK);
          expect(table.path(stack)).toEqual(path);
          const key = path.join('>');
          expect(known.get(key) ?? stack).toBe(stack);
          known.set(key, stack);
        }
        expect(new Set(known.values()).size).toBe(known.size);
        expect(table.length).toBeLessThanOrEqual(all.reduce((sum, path) => sum + path.length, 0));
      }),
    );
  });

  it('keeps the ids that rows gave, beside its own numbers', () => {
    const table = new StackTable();
    table.add(900, 4);
    table.add(7, 5, 900);
    const inner = table.ofRow(7)!;
    expect(table.path(inner)).toEqual([4, 5]);
    expect(table.rowIdOf(inner)).toBe(7);
    expect([...table.given()].map((stack) => table.rowIdOf(stack))).toEqual([900, 7]);
    expect(table.ofRow(1)).toBeUndefined();
    expect(table.calledFrom(table.ofRow(900)!, 5)).toBe(inner);
  });

  it('is the same after it was handed to another thread', () => {
    const table = new StackTable();
    table.add(3, 0);
    for (let functionId = 0; functionId < 500; functionId++)
      table.calledFrom(functionId % 7, functionId % 40);
    const received = StackTable.fromColumns(table.columns());
    expect(received.length).toBe(table.length);
    for (let stack = 0; stack < table.length; stack++)
      expect(received.path(stack)).toEqual(table.path(stack));
    expect(received.calledFrom(0, 0)).toBe(table.calledFrom(0, 0));
    expect(received.ofRow(3)).toBe(table.ofRow(3));
  });
});
