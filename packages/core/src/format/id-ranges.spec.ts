import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MAX_WHOLE } from './fields';
import {
  MAX_PAGES,
  THREADS_A_PAGE,
  firstHangStackOf,
  firstIdOf,
  firstIdOfThread,
  firstSampledIdOf,
  firstUninstrumentedId,
} from './id-ranges';

/** Ids that each hand may give in a recording before it has to stop: so many functions and stacks nobody has. */
const LEAST_ROOM = 2 ** 15;

const pages = fc.nat(MAX_PAGES);
const threads = fc.nat(MAX_PAGES * THREADS_A_PAGE);

/** Where the ids of each hand begin. */
const hand = fc.oneof(
  pages.map((page) => ({ name: `tables of page ${page}`, from: firstIdOf(page) })),
  pages.map((page) => ({ name: `hangs of page ${page}`, from: firstHangStackOf(page) })),
  pages.map((page) => ({ name: `samples of page ${page}`, from: firstSampledIdOf(page) })),
  threads.map((thread) => ({ name: `thread ${thread}`, from: firstIdOfThread(thread) })),
  fc.constant({ name: 'scripts that were not rewritten', from: firstUninstrumentedId() }),
);

describe('the ids of a recording', () => {
  it('are never given by two hands, and fit into the format', () => {
    fc.assert(
      fc.property(hand, hand, (a, b) => {
        if (a.name !== b.name)
          expect(Math.abs(a.from - b.from), `${a.name}, ${b.name}`).toBeGreaterThanOrEqual(LEAST_ROOM);
        expect(a.from + LEAST_ROOM).toBeLessThanOrEqual(MAX_WHOLE);
      }),
      { numRuns: 20_000 },
    );
  });

  it('are those of a page in order: its tables, its hangs, its samples, the next page', () => {
    fc.assert(
      fc.property(fc.nat(MAX_PAGES - 1), (page) => {
        const starts = [firstIdOf(page), firstHangStackOf(page), firstSampledIdOf(page), firstIdOf(page + 1)];
        expect([...starts].sort((a, b) => a - b)).toEqual(starts);
      }),
    );
  });
});
