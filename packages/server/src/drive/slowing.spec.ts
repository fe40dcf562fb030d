import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BrowserError, type Browser } from './browser';
import { slowed } from './slowing';

/** A browser whose calculation takes as long as it is slowed by, not quite as asked and with noise. */
function pretended(name: string, gives: (factor: number) => number, noise: () => number) {
  let factor = 1;
  const browser = {
    name,
    slow: (asked: number) => {
      factor = asked;
      return Promise.resolve();
    },
    call: () => Promise.resolve([50 * (factor === 1 ? 1 : gives(factor)) * noise(), 50]),
  };
  return { browser: browser as unknown as Browser, factorNow: () => (factor === 1 ? 1 : gives(factor)) };
}

describe('slowing a browser', () => {
  it('comes to what was asked for although the browser gives more or less, and tells what it measured', async () => {
    let count = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(2, 4, 6),
        fc.double({ min: 0.6, max: 1.6, noNaN: true }),
        fc.infiniteStream(fc.double({ min: 0.97, max: 1.03, noNaN: true })),
        async (asked, bias, noises) => {
          const noise = () => noises.next().value as number;
          const gives = (factor: number) => 1 + (factor - 1) * bias;
          const { browser, factorNow } = pretended(`pretended ${count++}`, gives, noise);
          const measured = await slowed(browser, asked, 0);
          // The calculation has a part that is not slowed, so that what it tells is what counts.
          const told = (50 * factorNow() + 50) / 100;
          expect(Math.abs(measured / told - 1)).toBeLessThan(0.08);
          expect(Math.abs(measured / asked - 1)).toBeLessThan(0.15);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('says what it measured where a browser cannot be had to run as slowly', async () => {
    const { browser } = pretended(
      'one that gives half',
      (factor) => Math.min(3, factor),
      () => 1,
    );
    expect(await slowed(browser, 6, 0)).toBe(2);
  });

  it('refuses a browser that cannot be slowed', async () => {
    await expect(slowed({ name: 'a phone' } as unknown as Browser, 4, 0)).rejects.toThrow(BrowserError);
  });
});
