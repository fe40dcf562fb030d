import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { serve } from '../packages/server/dist/index.js';
import { expect, stingList, test } from './stage';
import { listening } from '../scripts/lib/listening.mjs';

/** An app of a UI framework as a build leaves it for production, without spaces and names: the interface itself. */
for (const mode of ['fine', 'exact'] as const) {
  test(`an app as it is built for production does the same in ${mode} mode`, async ({ page }) => {
    const errors: string[] = [];
    page.on('pageerror', ({ message }) => errors.push(message));
    page.on('console', (message) => {
      if (message.type() === 'error') errors.push(message.text());
    });
    const desk = await listening(createDeskServer());
    const recorded = await serve({ target: desk.origin, port: 0, proxyPort: 0 });
    const recording = await serve({
      target: recorded.interfaceOrigin,
      port: 0,
      proxyPort: 0,
      settings: { mode, isModeChosen: true },
    });
    try {
      await page.goto(recorded.address.replace(recorded.interfaceOrigin, recording.proxyOrigin));
      await page.getByRole('button', { name: 'Demo recording' }).click();
      await expect(stingList(page).first()).toContainText('Board all', { timeout: 60_000 });
      const views = page.getByRole('navigation', { name: 'Views' });
      await views.getByRole('link', { name: 'Timeline' }).click();
      await expect(page.locator('[data-lane="thread 0"]')).toBeVisible();
      await views.getByRole('link', { name: 'Calls' }).click();
      await expect(page.locator('tr[data-name="onBoardAll"]')).toBeVisible();
      await views.getByRole('link', { name: 'Source' }).click();
      await expect(page.locator('.cm-content')).toBeVisible();
      expect(errors.filter((text) => !text.includes('status of 404'))).toEqual([]);
    } finally {
      recording.close();
      recorded.close();
      desk.close();
    }
  });
}
