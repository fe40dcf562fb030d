import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { AxeResults, RunOptions } from 'axe-core';
import { expect, startRecording, stingList, test } from './stage';
import { choose } from './choose';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe finds serious on a page, as lines that name the rule and the element. */
async function seriousFindings(page: Page): Promise<string[]> {
  const results = await page.evaluate<AxeResults, string>(async (source) => {
    // Evaluated in the page's main world, past the content security policy, as a tool of the browser would.
    (0, eval)(source);
    const { axe } = globalThis as unknown as { axe: { run(options: RunOptions): Promise<AxeResults> } };
    // Targets of at least 24 pixels, or with as much room around them (WCAG 2.2, 2.5.8).
    return axe.run({ rules: { 'target-size': { enabled: true } } });
  }, axeSource);
  return results.violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ target }) => `${id}: ${target.join(' ')}`));
}

test('axe finds nothing serious in any view', async ({ stage }) => {
  test.setTimeout(180_000);
  const { tool } = stage;
  const desk = await stage.openDesk();
  await tool.bringToFront();
  await expect(tool.getByRole('radio', { name: /Boarding desk/ })).toBeVisible();
  expect(await seriousFindings(tool), 'record').toEqual([]);
  await startRecording(tool, desk);
  await desk.click('#undo-boarding');
  await desk.waitForTimeout(800);
  await tool.bringToFront();
  expect(await seriousFindings(tool), 'recording').toEqual([]);
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);
  await tool.getByRole('link', { name: 'Record', exact: true }).click();
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(tool.locator('np-culprits tbody tr').first()).toBeVisible();
  expect(await seriousFindings(tool), 'stings').toEqual([]);
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await tool.locator('np-call-table tbody tr').first().waitFor();
  expect(await seriousFindings(tool), 'calls').toEqual([]);
  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  await tool.getByRole('img', { name: /Flame graph/ }).waitFor();
  expect(await seriousFindings(tool), 'flame graph').toEqual([]);
  const views = tool.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Timeline' }).click();
  await tool.locator('[data-lane="thread 0"]').waitFor();
  expect(await seriousFindings(tool), 'timeline').toEqual([]);
  for (const name of ['Ladder', 'Table']) {
    await tool.getByRole('radio', { name }).click();
    await tool.waitForTimeout(500);
    expect(await seriousFindings(tool), name).toEqual([]);
  }
  await views.getByRole('link', { name: 'Source' }).click();
  await tool.locator('.cm-content').waitFor();
  expect(await seriousFindings(tool), 'source').toEqual([]);
  await tool.keyboard.press('?');
  await tool.getByRole('dialog', { name: 'Help' }).waitFor();
  expect(await seriousFindings(tool), 'help').toEqual([]);
  await tool.keyboard.press('Escape');
  await tool.getByRole('button', { name: 'Settings' }).click();
  await tool.getByRole('dialog', { name: 'Settings' }).waitFor();
  await tool.waitForTimeout(400);
  expect(await seriousFindings(tool), 'settings').toEqual([]);
  await tool.keyboard.press('Escape');
  await tool.keyboard.press('/');
  await tool.getByRole('dialog').getByRole('combobox').fill('board');
  await tool.getByRole('option').first().waitFor();
  expect(await seriousFindings(tool), 'search').toEqual([]);
  await tool.keyboard.press('Escape');
  await views.getByRole('link', { name: 'Shelf' }).click();
  await expect(tool.locator('.card')).toHaveCount(2);
  expect(await seriousFindings(tool), 'shelf').toEqual([]);
});

test('axe finds nothing serious where steps are done again, nor where phones are let in', async ({
  stage,
}) => {
  const { tool, running } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.getByRole('button', { name: 'Repeat automatically' }).click();
  const dialog = tool.getByRole('dialog', { name: 'Repeat automatically' });
  await dialog.getByRole('listitem').first().waitFor();
  await tool.waitForTimeout(400);
  expect(await seriousFindings(tool), 'repeat automatically').toEqual([]);
  await dialog.getByRole('button', { name: 'Edit' }).click();
  expect(await seriousFindings(tool), 'steps as a file').toEqual([]);
  await dialog.getByRole('button', { name: 'Close' }).click();
  await choose(tool, 'Lengths in Stings and Calls', /4 × slower/);
  await expect(tool.getByRole('status').filter({ hasText: 'On a device' })).toBeVisible();
  expect(await seriousFindings(tool), 'slower device').toEqual([]);
  await running.lan.open('127.0.0.2');
  await tool.getByRole('link', { name: 'Record', exact: true }).click();
  await expect(tool.getByRole('img', { name: /Code to scan/ })).toBeVisible();
  expect(await seriousFindings(tool), 'a phone in the room').toEqual([]);
});

test('axe finds nothing serious in the comparison and in the trend of a tag', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Compare', exact: true }).click();
  expect(await seriousFindings(tool), 'nothing compared').toEqual([]);
  await tool.getByRole('button', { name: 'See the demo: before and after' }).click();
  await expect(tool.locator('np-anatomy-pair')).toBeVisible();
  expect(await seriousFindings(tool), 'compare').toEqual([]);
  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  expect(await seriousFindings(tool), 'flame graph of the difference').toEqual([]);
  await tool.getByRole('link', { name: 'Shelf' }).click();
  for (const title of ['Friday sailing', 'Friday sailing, mended']) {
    await tool.getByRole('button', { name: `More about ${title}`, exact: true }).click();
    await tool.getByRole('menuitem', { name: 'Tag' }).click();
    await tool.getByLabel('Tags, with commas between them').fill('quay');
    await tool.keyboard.press('Enter');
  }
  await tool.getByRole('listbox', { name: 'Tags' }).getByRole('option', { name: 'quay 2' }).click();
  await expect(tool.locator('np-trend canvas')).toBeVisible();
  await tool.waitForTimeout(500);
  expect(await seriousFindings(tool), 'trend').toEqual([]);
});

test('stings, their functions and the range are reached by keyboard', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toHaveAttribute('aria-current', 'true');
  await tool.keyboard.press('j');
  await expect(stingList(tool).nth(1)).toHaveAttribute('aria-current', 'true');
  await expect(tool).toHaveURL(/sting=\d+/);
  await tool.keyboard.press('k');
  await expect(stingList(tool).first()).toHaveAttribute('aria-current', 'true');

  await expect(tool.getByTestId('because')).toContainText('Board all');
  const name = tool.getByTestId('because').getByRole('button').last();
  await name.focus();
  await tool.keyboard.press('Enter');
  await expect(name).toHaveAttribute('aria-pressed', 'true');
  await expect(tool.locator('np-culprits tr.on')).toHaveCount(1);

  await tool.getByRole('img', { name: /^Overview of/ }).focus();
  await tool.keyboard.press('ArrowRight');
  await expect(tool).toHaveURL(/from=[\d.]+&to=[\d.]+|to=[\d.]+&from=[\d.]+/);
  await expect(tool.getByRole('button', { name: 'Show all' })).toBeVisible();
  await tool.goBack();
  await expect(tool.getByRole('button', { name: 'Show all' })).toHaveCount(0);
});

test('forced colours leave the colours that say what something is, and a focus that can be seen', async ({
  stage: { tool },
}) => {
  await tool.emulateMedia({ forcedColors: 'active' });
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  const colourOf = (selector: string) =>
    tool
      .locator(selector)
      .first()
      .evaluate((element) => getComputedStyle(element).backgroundColor);
  const named = (name: string) =>
    tool.evaluate((property) => {
      const probe = document.createElement('i');
      probe.style.forcedColorAdjust = 'none';
      probe.style.backgroundColor = `var(${property})`;
      document.body.append(probe);
      const colour = getComputedStyle(probe).backgroundColor;
      probe.remove();
      return colour;
    }, name);
  expect(await colourOf('np-sting-list .bar .handling')).toBe(await named('--handling'));
  await tool.locator('np-part-swatch.scriptOwnMs').first().waitFor();
  expect(await colourOf('np-part-swatch.scriptOwnMs')).toBe(await named('--script-own'));

  const row = stingList(tool).nth(1);
  await row.focus();
  await tool.keyboard.press('Tab');
  await tool.keyboard.press('Shift+Tab');
  const outline = await row.evaluate((element) => getComputedStyle(element).outlineStyle);
  expect(outline).toBe('solid');
});

test('axe finds nothing serious in the trials, and Tab leaves an editor', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Trials' }).click();
  expect(await seriousFindings(tool), 'no trials').toEqual([]);
  await tool.getByRole('button', { name: 'Open the demo trial' }).click();
  const setUp = tool.getByRole('textbox', { name: 'Set-up' });
  await setUp.focus();
  await tool.keyboard.press('Tab');
  await expect(setUp).not.toBeFocused();
  expect(await seriousFindings(tool), 'a trial').toEqual([]);
});
