import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MaxTree } from './max-tree';

describe('numbers above a limit', () => {
  it('are found as a look at all of them finds them', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 100 }), { maxLength: 900 }),
        fc.integer({ min: -1, max: 101 }),
        fc.integer({ min: 0, max: 900 }),
        (values, limit, end) => {
          const found: number[] = [];
          new MaxTree(values).eachAbove(limit, end, (index) => found.push(index));
          expect(found).toEqual([...values.keys()].filter((index) => index < end && values[index]! > limit));
        },
      ),
    );
  });
});
