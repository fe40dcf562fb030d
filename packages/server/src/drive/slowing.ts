import { calculationTimes, median } from '@nettle-patch/core';
import { BrowserError, type Browser } from './browser';

const ROUNDS = 12;
/** Slow and usual are measured in turn, so often, as other work of the machine comes and goes. */
const PAIRS = 5;
const MOST_TRIES = 4;
/** Within this share of what was asked for it is left as it is. */
const NEAR_ENOUGH = 0.08;
/** What a page still does after it was loaded would count as slowness of the browser. Milliseconds. */
const SETTLE_MS = 500;

/** How long the calculation takes in the page that is open, on its main thread. Milliseconds. */
async function calculationMs(browser: Browser): Promise<number> {
  const source = `() => (${String(calculationTimes)})(() => performance.now(), ${ROUNDS})`;
  const times = (await browser.call(source)) as number[];
  return times.reduce((sum, ms) => sum + ms, 0);
}

/** What a browser has to be slowed by for what was asked, as it was found for the one before. */
const foundBefore = new Map<string, number>();

/**
 * Has a browser run slower, and measures by how much it is: in the page that is open, slow and as usual in turn. Where
 * that is not near what was asked for, it is slowed more or less.
 * @param factor times slower that are asked for
 * @returns times slower that were measured last, whether or not they are near it
 * @throws BrowserError where it cannot be slowed
 */
export async function slowed(browser: Browser, factor: number, settleMs = SETTLE_MS): Promise<number> {
  const { name } = browser;
  const slow = browser.slow?.bind(browser);
  if (slow === undefined) throw new BrowserError(`${name} cannot be slowed from here`);
  await new Promise((resolve) => setTimeout(resolve, settleMs));
  const key = `${name} ${factor}`;
  let applied = foundBefore.get(key) ?? factor;
  for (let left = MOST_TRIES; ; left--) {
    const ratios: number[] = [];
    for (let pair = 0; pair < PAIRS; pair++) {
      await slow(1);
      const usualMs = await calculationMs(browser);
      await slow(applied);
      ratios.push((await calculationMs(browser)) / usualMs);
    }
    const measured = median(ratios);
    if (left === 1 || Math.abs(measured / factor - 1) <= NEAR_ENOUGH) {
      foundBefore.set(key, applied);
      return Math.round(measured * 100) / 100;
    }
    applied = Math.min(3 * factor, Math.max(1.05, (applied * factor) / measured));
  }
}
