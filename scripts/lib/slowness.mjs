const SPIN_EVERY_MS = 200;

/**
 * Watches how much longer than at its best the machine takes for the same work, half of the time: what else it does
 * meanwhile makes everything slower by about that much.
 * @param page a page of its own, on which the work is done
 * @returns a function that gives the factor so far, 1 or more
 */
export async function watchSlowness(page) {
  await page.evaluate((everyMs) => {
    const scope = globalThis;
    const spin = () => {
      const startedAt = performance.now();
      let sum = 0;
      for (let step = 0; step < 2e6; step++) sum += Math.sqrt(step);
      if (sum > 0) scope.spins.push(performance.now() - startedAt);
    };
    scope.spins = [];
    for (let warm = 0; warm < 10; warm++) spin();
    scope.spins = [];
    scope.setInterval(spin, everyMs);
  }, SPIN_EVERY_MS);
  return async () => {
    const sorted = (await page.evaluate(() => globalThis.spins)).sort((a, b) => a - b);
    return sorted[Math.floor(sorted.length / 2)] / sorted[0];
  };
}
