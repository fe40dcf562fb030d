import { missingFor } from '../../packages/server/dist/index.js';
import { say, valueOf } from './options.mjs';

/** The browsers a benchmark was asked to use, by their names, and that are there; of others it is said what they lack. */
export function browsersHere(otherwise = 'chromium,firefox,webkit') {
  const asked = valueOf('--browsers', otherwise).split(',');
  return asked.filter((browser) => {
    const missing = missingFor(browser);
    if (missing !== undefined) say(`${browser}: left out, ${missing}`);
    return missing === undefined;
  });
}
