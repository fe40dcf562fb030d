/** A project opened in Chromium without the recorder, to know what is the app's own, and with it, to see what goes on working. */
import { chromium } from '@playwright/test';
import { RecordingClient, serve } from '../../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../../scripts/lib/browser.mjs';

const HOT_LIMIT_MS = 15_000;

async function take(page, steps) {
  for (const step of steps) {
    if (step.do === 'wait') await page.waitForTimeout(step.ms);
    else await page.click(step.on);
  }
}

/** Whether a page that is recorded shows a changed file without being loaded anew. */
async function staysHot(browser, project, mode) {
  const running = await serve({ target: project.url.origin, port: 0, proxyPort: 0, settings: { mode } });
  const client = await RecordingClient.connect(running);
  const page = await browser.newPage();
  try {
    await page.goto(running.proxyOrigin + project.url.pathname + project.url.search);
    await page.locator('h1', { hasText: 'hot-1' }).waitFor();
    await client.start(await client.target(), 'hot');
    await page.waitForTimeout(1000);
    await page.evaluate(() => (globalThis.isKept = true));
    project.changeText('hot-1', 'hot-2');
    await page.locator('h1', { hasText: 'hot-2' }).waitFor({ timeout: HOT_LIMIT_MS });
    return await page.evaluate(() => globalThis.isKept === true);
  } catch {
    return false;
  } finally {
    project.changeText('hot-2', 'hot-1');
    await page.close();
    client.close();
    running.close();
  }
}

export async function openLocalPages(url) {
  const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
  return {
    /** What the app tells of its errors by itself. */
    async errors(steps, tally) {
      tally.take();
      const page = await browser.newPage();
      await page.goto(url);
      await take(page, steps);
      await page.close();
      return tally.take();
    },
    /** By mode, whether hot replacement goes on. */
    async hot(project, modes) {
      const by = {};
      for (const mode of modes) {
        by[mode] = await staysHot(browser, project, mode);
        await new Promise((resolve) => setTimeout(resolve, 1500));
      }
      return by;
    },
    close: () => browser.close(),
  };
}
