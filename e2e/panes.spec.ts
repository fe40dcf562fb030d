import type { Page } from '@playwright/test';
import { expect, test } from './stage';

const openDemo = async (tool: Page) => {
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.waitForURL(/\/stings\//);
  await expect(tool.locator('np-sting-list ol').first()).toBeVisible();
};
const widthOf = async (tool: Page, selector: string) => (await tool.locator(selector).boundingBox())!.width;

test('a pane is made wider by pointer and by keys, hidden and brought back, and stays as it was left', async ({
  stage: { tool },
}) => {
  await openDemo(tool);
  const divider = tool.getByRole('separator', { name: 'Width of: list of stings' });
  const list = 'np-sting-list';
  const before = await widthOf(tool, list);

  await divider.focus();
  await tool.keyboard.press('ArrowRight');
  await expect.poll(() => widthOf(tool, list)).toBe(before + 16);
  await expect(divider).toHaveAttribute('aria-valuenow', String(before + 16));

  const { x, y, width } = (await divider.boundingBox())!;
  await tool.mouse.move(x + width / 2, y + 100);
  await tool.mouse.down();
  await tool.mouse.move(x + width / 2 - 50, y + 120);
  await tool.mouse.move(x + width / 2 - 86, y + 120);
  await tool.mouse.up();
  await expect.poll(() => widthOf(tool, list)).toBe(before - 70);

  await tool.reload();
  await expect(tool.locator(list)).toBeVisible();
  await expect.poll(() => widthOf(tool, list)).toBe(before - 70);

  await divider.focus();
  await tool.keyboard.press('Enter');
  await expect(tool.locator(list)).toHaveCount(0);
  await tool.reload();
  await expect(tool.locator('np-sting-case')).toBeVisible();
  await expect(tool.locator(list)).toHaveCount(0);
  await tool.getByRole('button', { name: 'Show: list of stings' }).click();
  await expect.poll(() => widthOf(tool, list)).toBe(before - 70);

  await divider.dblclick();
  await expect.poll(() => widthOf(tool, list)).toBe(before);
});

test('a pane leaves room for the rest of its view on a narrow window', async ({ stage: { tool } }) => {
  await openDemo(tool);
  await tool.getByRole('separator', { name: 'Width of: list of stings' }).focus();
  await tool.keyboard.press('End');
  await tool.setViewportSize({ width: 1024, height: 700 });
  const rest = await widthOf(tool, 'np-sting-case');
  expect(rest).toBeGreaterThan(300);
});

test('a pane that nobody has changed uses the room of a wide window', async ({ stage: { tool } }) => {
  await openDemo(tool);
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Timeline' }).click();
  const divider = tool.getByRole('separator', { name: /^Width of: / });
  const width = async () => Number(await divider.getAttribute('aria-valuenow'));
  const before = await width();
  await tool.setViewportSize({ width: 1920, height: 1080 });
  await expect.poll(width).toBeGreaterThan(before + 80);
  await divider.focus();
  await tool.keyboard.press('ArrowLeft');
  const changed = await width();
  await tool.setViewportSize({ width: 1280, height: 800 });
  await expect.poll(width).toBe(changed);
});

test('a sting is walked through by keys, and handed on as a page that needs nothing else', async ({
  stage: { tool },
}) => {
  await openDemo(tool);
  await tool.locator('np-sting-list li button').filter({ hasText: 'Board all' }).first().click();
  const drawing = tool.getByRole('application', { name: /^Anatomy of: Tap button “Board all”/ });
  await drawing.focus();
  const card = tool.locator('np-anatomy np-hover-card');
  await tool.keyboard.press('ArrowRight');
  await expect(card).toContainText('Phase');
  await expect(async () => {
    await tool.keyboard.press('ArrowDown');
    await expect(card.locator('p').first()).toHaveText('Call', { timeout: 200 });
  }).toPass();
  await expect(card).toContainText('known by');
  const name = (await card.locator('.title').textContent())!;
  await tool.keyboard.press('Enter');
  await expect(tool.locator('np-chosen-bar')).toContainText(name);

  await tool.getByRole('button', { name: 'Report' }).click();
  const saved = tool.waitForEvent('download');
  await tool.getByRole('menuitem', { name: 'Save page' }).click();
  const download = await saved;
  expect(download.suggestedFilename()).toBe('Tap-button-Board-all.html');
  const asked: string[] = [];
  const page = await tool.context().newPage();
  page.on('request', (request) => asked.push(request.url()));
  const path = test.info().outputPath('sting.html');
  await download.saveAs(path);
  await page.goto(`file://${path}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tap button “Board all”');
  await expect(page.getByRole('heading', { name: 'How this is known' })).toBeVisible();
  expect(asked).toHaveLength(1);
});

test('the path that took longest opens at once, and hits are gone through', async ({ stage: { tool } }) => {
  await openDemo(tool);
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await tool.getByRole('button', { name: 'More for calls' }).click();
  await tool.getByRole('menuitem', { name: 'Open the longest path' }).click();
  const chosen = tool.locator('np-call-table tr[aria-selected="true"]');
  await expect(chosen).toHaveCount(1);
  await expect.poll(async () => Number(await chosen.getAttribute('aria-level'))).toBeGreaterThan(2);
  const name = await chosen.getAttribute('data-name');
  await tool.reload();
  await expect(tool.locator(`tr[data-name="${name}"][aria-level]`).first()).toBeVisible();

  const find = tool.getByLabel('Find functions and files');
  await find.fill('trim');
  await expect(tool.locator('tr.hit').nth(1)).toBeVisible();
  const first = await tool.locator('tr.hit').first().getAttribute('data-name');
  await find.press('Enter');
  await expect(tool.locator('tr.hit[aria-selected="true"]')).toHaveAttribute('data-name', first!);
  await tool.getByRole('button', { name: 'Next hit' }).click();
  await expect(tool.locator('tr.hit').nth(1)).toHaveAttribute('aria-selected', 'true');
  await tool.getByRole('button', { name: 'Hit before' }).click();
  await expect(tool.locator('tr.hit').first()).toHaveAttribute('aria-selected', 'true');
});

test('a table is copied as text, whole or the line that is chosen', async ({ stage: { tool, context } }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openDemo(tool);
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await tool.getByRole('radio', { name: 'Flat' }).click();
  const rows = tool.locator('np-call-table tbody tr');
  await expect(rows.nth(5)).toBeVisible();
  await tool.getByRole('button', { name: 'More for calls' }).click();
  await tool.getByRole('menuitem', { name: 'Copy as text' }).click();
  await expect(tool.getByText('Copied as text.')).toBeVisible();
  const copied = () => tool.evaluate(() => navigator.clipboard.readText());
  const lines = (await copied()).trimEnd().split('\n');
  expect(lines[0]).toBe('function\tplace\tself ms\ttotal ms');
  expect(lines.length).toBeGreaterThan(await rows.count());
  expect(lines[1]!.split('\t')).toHaveLength(4);

  await rows.nth(1).click();
  await rows.nth(1).focus();
  await tool.keyboard.press('Control+c');
  await expect(tool.getByText('was copied as text.')).toBeVisible();
  expect((await copied()).trimEnd()).toBe(lines[2]);
});

test('the lens bar says what the view does not do', async ({ stage: { tool } }) => {
  await openDemo(tool);
  const bar = tool.locator('np-lens-bar');
  await expect(bar).not.toContainText('libraries folded');
  const views = tool.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Calls' }).click();
  await expect(bar).toContainText('libraries folded');
  await tool.getByLabel('Fold recursion').check();
  await expect(bar.locator('mat-chip')).toHaveText(/^\s*recursion folded\s*$/);
  await views.getByRole('link', { name: 'Timeline' }).click();
  await expect(bar.locator('mat-chip')).toContainText('recursion folded, not in this view');
});
