import { expect, it } from 'vitest';
import { lineReached } from './line-reached';

const [ARM, LEVER, BENDING] = [27, 28, 29];
const TURN = [ARM, 5, LEVER, 20, BENDING, 35];

it('gives each line its share of a turn, the last of the latest turn first', () => {
  const counts = { [ARM]: 0, [LEVER]: 0, [BENDING]: 0 };
  for (let done = 1; done <= 60 * 3; done++) counts[lineReached(TURN, done)]!++;
  expect(counts).toEqual({ [ARM]: 15, [LEVER]: 60, [BENDING]: 105 });
  expect(lineReached(TURN, 1)).toBe(BENDING);
  expect(lineReached(TURN, 35)).toBe(BENDING);
  expect(lineReached(TURN, 36)).toBe(LEVER);
  expect(lineReached(TURN, 60)).toBe(ARM);
});

it('is the only line of a loop that has one', () => {
  expect([1, 7, 700].map((done) => lineReached([LEVER, 7], done))).toEqual([LEVER, LEVER, LEVER]);
});
