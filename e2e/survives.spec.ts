import type { Page } from '@playwright/test';
import { expect, startRecording, stingList, stopRecording, test, type Stage } from './stage';

/** Opens the desk, begins to record it, and has all board. */
async function recordBoarding({ tool, openDesk }: Stage, restMs: number): Promise<Page> {
  const desk = await openDesk();
  await startRecording(tool, desk);
  await desk.click('#board-all');
  await desk.waitForTimeout(restMs);
  return desk;
}

test(
  'a tab closed in the middle, and a reload of the tool, leave the recording on the shelf',
  { tag: '@waits' },
  async ({ stage }) => {
    const { tool } = stage;
    const desk = await recordBoarding(stage, 1200);
    await desk.close();
    await tool.bringToFront();
    await expect(tool.getByRole('alert')).toContainText('What it had sent until then is kept');
    await tool.reload();
    await tool.getByRole('link', { name: 'Shelf' }).click();
    await tool.getByRole('link', { name: /^localhost:\d+\// }).click();
    await expect(stingList(tool).first()).toContainText('Tap button “Board all”');
    await expect(tool.locator('np-culprits tbody tr').first()).toContainText('bendingOfPair');
  },
);

test(
  'a reload of the tool while recording goes on with the same recording and loses nothing',
  { tag: '@waits' },
  async ({ stage }) => {
    const { tool } = stage;
    const desk = await recordBoarding(stage, 1000);
    await tool.reload();
    await desk.waitForTimeout(300);
    await desk.click('#search-manifest');
    await desk.waitForTimeout(400);
    await desk.keyboard.type('h');
    await desk.waitForTimeout(1200);
    await tool.bringToFront();
    await expect(tool.getByText('Recording ·')).toBeVisible();
    await stopRecording(tool);
    await expect(stingList(tool).filter({ hasText: 'Board all' })).toHaveCount(1);
    await expect(stingList(tool).filter({ hasText: 'Search manifest' })).toHaveCount(1);
    await expect(tool.locator('np-notices li')).toHaveCount(0);
  },
);

test('a server that goes away is told of, with what to do, and what was kept stays', async ({ stage }) => {
  const { tool } = stage;
  await recordBoarding(stage, 1200);
  stage.running.close();
  await tool.bringToFront();
  await expect(
    tool.getByRole('status').filter({ hasText: 'connection to the Nettle Patch server is lost' }),
  ).toBeVisible();
  await expect(tool.getByRole('alert')).toContainText('What came until then is kept');
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await expect(tool.locator('.card')).toContainText('still recording, or cut off');
  await tool.getByRole('link', { name: /^localhost:\d+\// }).click();
  await expect(stingList(tool).first()).toContainText('Board all');
  await expect(tool.locator('np-notices')).toContainText('The recording is cut off');
  await tool.getByRole('link', { name: 'Record', exact: true }).click();
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);
  await expect(tool.locator('np-notices')).toContainText('the server was not there');
  await expect(tool.locator('np-notices')).not.toContainText('cut off');
});

test(
  'a store that is full in the middle ends the recording, says so, and what came before can be used',
  { tag: '@waits' },
  async ({ stage }) => {
    const { tool, running, context } = stage;
    const desk = await recordBoarding(stage, 1500);
    const browserOf = await context.newCDPSession(tool);
    const { usage } = (await tool.evaluate(() => navigator.storage.estimate())) as { usage: number };
    const limit = { origin: running.interfaceOrigin, quotaSize: usage + 2_000 };
    await browserOf.send('Storage.overrideQuotaForOrigin', limit);
    await desk.click('#search-manifest');
    for (let letters = 0; letters < 30; letters++) {
      await desk.keyboard.type('h');
      await desk.waitForTimeout(300);
      if (await tool.getByText('no more room').isVisible()) break;
    }
    await tool.bringToFront();
    await expect(tool.getByRole('alert')).toContainText('no more room');
    await tool.getByRole('button', { name: 'Show what was recorded' }).click();
    await expect(stingList(tool).filter({ hasText: 'Board all' }).first()).toBeVisible();
    await expect(desk.locator('#search-manifest')).toHaveValue(/^h+$/);

    await browserOf.send('Storage.overrideQuotaForOrigin', { origin: running.interfaceOrigin });
    await tool.getByRole('link', { name: 'Shelf' }).click();
    await tool.reload();
    await expect(tool.locator('.card')).not.toContainText('still recording');
    await tool.getByRole('link', { name: /^localhost:\d+\// }).click();
    await stingList(tool).filter({ hasText: 'Board all' }).first().click();
    await expect(tool.locator('np-culprits tbody tr').first()).toContainText('bendingOfPair');
  },
);

test('an address without its key, or with an old one, says so', async ({ stage }) => {
  const page = await (await stage.context.browser()!.newContext()).newPage();
  await page.goto(stage.running.interfaceOrigin);
  await expect(page.getByRole('status')).toContainText('opened without its key');
  await page.goto(`${stage.running.interfaceOrigin}/record#secret=old`);
  await page.reload();
  await expect(page.getByRole('status')).toContainText('Open the address it printed');
  await page.context().close();
});

test(
  'a second tab of the tool says that another one records, and goes on with it when that is closed',
  { tag: '@waits' },
  async ({ stage }) => {
    const { tool } = stage;
    const desk = await recordBoarding(stage, 800);
    const second = await tool.context().newPage();
    await second.goto(stage.running.address);
    await expect(second.getByRole('status').filter({ hasText: 'Another tab of Nettle Patch' })).toBeVisible();
    await tool.close();
    await second.bringToFront();
    await expect(second.getByText('Recording ·')).toBeVisible();
    await desk.bringToFront();
    await desk.click('#search-manifest');
    await desk.keyboard.type('h');
    await desk.waitForTimeout(1200);
    await second.bringToFront();
    await stopRecording(second);
    for (const label of ['Board all', 'Search manifest'])
      await expect(stingList(second).filter({ hasText: label })).toHaveCount(1);
    await expect(second.locator('np-notices li')).toHaveCount(0);
  },
);
