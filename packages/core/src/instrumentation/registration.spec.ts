import fc from 'fast-check';
import { expect, it } from 'vitest';
import { packPositions, unpackPositions } from './registration';

const position = fc.record({
  functionIndex: fc.nat(100_000),
  line: fc.integer({ min: 1, max: 1_000_000 }),
  column: fc.integer({ min: 1, max: 10_000_000 }),
});

it('positions are what they were before they were packed', () => {
  fc.assert(
    fc.property(fc.array(position), (positions) => {
      expect(unpackPositions(packPositions(positions))).toEqual(positions);
    }),
  );
});
