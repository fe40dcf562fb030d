import { expect, it } from 'vitest';
import { inferredWriterWords } from './redraw-writers';

it('that a writer is inferred is said, and of how many redraws; where all tell theirs nothing is', () => {
  expect([0, 0.25, 1].map(inferredWriterWords)).toEqual([
    '',
    ' Who wrote is inferred in 25 % of them: the recording does not tell it, and this ran last before.',
    ' Who wrote is inferred: the recording does not tell it, and this ran last before.',
  ]);
});
