import type { BrowserContext } from '@playwright/test';

/** Has pages find an engine that tells of no inputs, with the file of the recorder that such an engine gets. */
export async function withoutEventTiming(context: BrowserContext): Promise<void> {
  await context.addInitScript(() => {
    const offered = PerformanceObserver.supportedEntryTypes.filter((type) => type !== 'event');
    Object.defineProperty(PerformanceObserver, 'supportedEntryTypes', { get: () => offered });
  });
  await context.route('**/blink.js', async (route) => {
    const url = route.request().url().replace('blink.js', 'listeners.js');
    const [response, listeners] = [await route.fetch(), await route.fetch({ url })];
    await route.fulfill({ response, body: `${await listeners.text()};${await response.text()}` });
  });
}
