import { startBusyApp } from './busy-app';
import { expect, stingList, test } from './stage';
import { serve } from '../packages/server/dist/index.js';

test(
  'an endless loop is told of while it lasts, with its code; the tab may be killed',
  { tag: '@waits' },
  async ({ browser }) => {
    const app = await startBusyApp();
    const running = await serve({
      target: app.url,
      port: 0,
      proxyPort: 0,
      settings: { mode: 'exact', isolate: true },
    });
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const tool = await context.newPage();
    await tool.goto(running.address);
    const own = await browser.newContext();
    const page = await own.newPage();
    await page.goto(running.proxyOrigin);
    expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
    await tool.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(tool.getByText('Recording ·')).toBeVisible();
    await page.waitForTimeout(500);
    void page.click('#forever', { noWaitAfter: true }).catch(() => undefined);
    const hang = tool.getByText('The page has been hanging for');
    await hang.waitFor();
    const toldAfterMs = Date.now() - app.loopsSince!;
    await expect(tool.locator('np-hang')).toContainText(/in (spin|loopForever)/);
    await expect(tool.locator('np-hang')).toContainText('onForever');
    await tool.waitForTimeout(1500);
    await expect(tool.locator('np-hang')).toContainText(/[12]\.\d s/);
    // 250 ms make a hang; it is to be told within 500 ms, and shown with what the browser takes to draw it.
    expect(toldAfterMs).toBeLessThan(1500);

    await own.close();
    await expect(tool.getByText('The page was closed, left for another site or crashed.')).toBeVisible();
    await tool.getByRole('button', { name: 'Show what was recorded' }).click();
    await expect(stingList(tool).first()).toContainText('hang');
    await expect(tool.locator('np-culprits tbody tr').first()).toContainText('spin');
    await expect(tool.getByTestId('because')).toContainText('onForever');
    await context.close();
    running.close();
    app.close();
  },
);
