import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { expect, test } from './stage';
import { choose } from './choose';

const DEMO = 'packages/app/public/demo/';
const FILES = ['friday-sailing', 'friday-sailing-mended'].map((name) => `${DEMO}${name}.nettle.jsonl.gz`);
const PNG = [0x89, 0x50, 0x4e, 0x47];

async function keepBoth(tool: Page): Promise<void> {
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await tool.locator('np-shelf').getByLabel('Recording file').setInputFiles(FILES);
  await expect(tool.locator('.card')).toHaveCount(2);
}

async function saved(tool: Page, item: string): Promise<{ name: string; bytes: Buffer }> {
  const download = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Report' }).click();
  await tool.getByRole('menuitem', { name: item }).click();
  const file = await download;
  return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
}

test('two recordings of the shelf are held against each other, with a verdict in words and the code that is gone', async ({
  stage,
}) => {
  const { tool } = stage;
  await keepBoth(tool);
  await tool.getByRole('button', { name: 'More about Friday sailing', exact: true }).click();
  await tool.getByRole('menuitem', { name: 'Compare, as before' }).click();
  await choose(tool, 'Recording after the change', /mended/);
  await expect(tool).toHaveURL(/before=friday-sailing&after=friday-sailing-mended/);

  const typing = tool.locator('.series tr').filter({ hasText: 'Type in search field “Search manifest”' });
  await expect(typing.locator('strong')).toHaveText('faster');
  await expect(typing).toContainText(/−\d+ ms, 95 % between −\d+ and −\d+/);
  await expect(typing.getByRole('img')).toHaveAccessibleName(
    /before (\d+ ms, ){5}\d+ ms; after (\d+ ms, ){5}\d+ ms/,
  );
  const boarding = tool.locator('.series tr').filter({ hasText: 'Tap button “Board all”' });
  await expect(boarding.locator('strong')).toHaveText('too few to say');

  await typing.getByRole('button').click();
  const parts = tool.locator('np-anatomy-pair tr').filter({ hasText: 'own script' });
  const [before, after] = (await parts.locator('td').allTextContents()).map(parseFloat);
  expect(before).toBeGreaterThan(10 * after!);
  await expect(tool.locator('np-compared-functions tr').filter({ hasText: 'foldAccents' })).toContainText(
    'gone',
  );

  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  const flame = tool.getByRole('img', { name: /^Flame graph of the difference/ });
  await flame.press('ArrowDown');
  const card = tool.locator('np-flame-difference np-hover-card');
  await expect(card).toContainText(/before[\d.,]+ ms.*after(not there|[\d.,]+ ms)/);
  await expect(tool.getByRole('link', { name: 'Source before' })).toHaveAttribute(
    'href',
    /^\/source\/friday-sailing\?function=\d+$/,
  );

  await tool.getByRole('button', { name: 'Swap before and after' }).click();
  await expect(typing.locator('strong')).toHaveText('slower');
});

test('the proof is passed on as Markdown, a picture and a page that needs nothing else', async ({
  stage,
}) => {
  const { tool, context } = stage;
  await tool.getByRole('link', { name: 'Compare', exact: true }).click();
  await tool.getByRole('button', { name: 'See the demo: before and after' }).click();
  await expect(tool.locator('np-anatomy-pair')).toBeVisible();

  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await tool.getByRole('button', { name: 'Report' }).click();
  await tool.getByRole('menuitem', { name: 'Copy as Markdown' }).click();
  await expect(tool.getByText('Copied as Markdown.')).toBeVisible();
  const markdown = await tool.evaluate(() => navigator.clipboard.readText());
  expect(markdown).toMatch(/\| Type in search field “Search manifest” \|.*\| \*\*faster\*\* \(−/);

  const picture = await saved(tool, 'Save picture');
  expect(picture.name).toBe('Friday-sailing-mended-before-and-after.png');
  expect([...picture.bytes.subarray(0, 4)]).toEqual(PNG);
  expect(picture.bytes.readUInt32BE(16)).toBe(2 * 960);

  const page = await saved(tool, 'Save page');
  const asked: string[] = [];
  const reader = await context.newPage();
  reader.on('request', (request) => asked.push(request.url()));
  await reader.setContent(page.bytes.toString('utf8'));
  await expect(reader.getByRole('heading', { level: 1 })).toHaveText(
    'Friday sailing, mended: before and after',
  );
  const typing = reader.locator('tr').filter({ hasText: 'Type in search field “Search manifest”' });
  await expect(typing.locator('td').filter({ hasText: /^faster$/ })).toHaveCount(1);
  expect(asked).toEqual([]);
});

test('a recording made again becomes the one after', async ({ stage }) => {
  const { tool } = stage;
  await keepBoth(tool);
  await tool.getByRole('link', { name: 'Friday sailing', exact: true }).click();
  await tool.getByRole('link', { name: 'Record again' }).click();
  await expect(tool).toHaveURL(/\/record$/);
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await tool.getByRole('link', { name: 'Friday sailing, mended' }).click();
  await tool.getByRole('link', { name: 'Compare with before' }).click();
  await expect(tool).toHaveURL(/before=friday-sailing&after=friday-sailing-mended/);
  await expect(tool.locator('np-anatomy-pair')).toBeVisible();
});

test('comparing with a recording that is gone says so', async ({ stage }) => {
  const { tool } = stage;
  await tool.goto(`${new URL(tool.url()).origin}/compare?before=nowhere&after=nothing`);
  await expect(tool.getByRole('alert')).toContainText('not on the shelf of this browser');
});

test('three recordings of the shelf stand in one table, from which any two open in the pair view', async ({
  stage,
}) => {
  const { tool } = stage;
  await keepBoth(tool);
  const [header, ...rows] = gunzipSync(readFileSync(FILES[0]!)).toString().split('\n');
  const again = { ...(JSON.parse(header!) as object), id: 'friday-again', title: 'Friday again' };
  await tool
    .locator('np-shelf')
    .getByLabel('Recording file')
    .setInputFiles({
      name: 'friday-again.nettle.jsonl',
      mimeType: 'application/x-ndjson',
      buffer: Buffer.from([JSON.stringify(again), ...rows].join('\n')),
    });
  await tool.waitForURL(/\/stings\//);
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await expect(tool.locator('.card')).toHaveCount(3);
  for (const box of await tool.locator('.card').getByRole('checkbox').all()) await box.check();
  const chosen = tool.getByRole('region', { name: 'Chosen recordings' });
  await chosen.getByRole('link', { name: 'Compare' }).click();
  await expect(tool).toHaveURL(/\/compare\/several\?recordings=/);

  const table = tool.getByTestId('several');
  const heads = table.getByRole('columnheader');
  await expect(heads).toHaveCount(4);
  const places = (await heads.allTextContents()).map((words) => words.replaceAll(/\s+/g, ' ').trim());
  const mended = places.findIndex((words) => words.includes('mended'));
  const typing = table.getByRole('row').filter({ hasText: /^ ?Type in search field “Search manifest” ?\d/ });
  const medians = (await typing.getByRole('cell').allTextContents()).map(parseFloat);
  expect(medians).toHaveLength(3);
  const others = medians.filter((_, at) => at !== mended - 1);
  expect(others[0]).toBe(others[1]);
  expect(medians[mended - 1]!).toBeLessThan(others[0]! / 2);
  await expect(table.getByRole('cell').filter({ hasText: 'slowest' })).not.toHaveCount(0);

  const report = await saved(tool, 'Save page');
  expect(report.name).toBe('3-recordings.html');
  expect(report.bytes.toString()).toContain('Friday again');

  await heads.filter({ hasText: 'mended' }).getByRole('checkbox').check();
  await heads.filter({ hasText: 'Friday again' }).getByRole('checkbox').check();
  await tool.getByRole('link', { name: 'Compare these two' }).click();
  await expect(tool).toHaveURL(/before=[^&]+&after=/);
  await expect(tool.locator('.series tr').filter({ hasText: 'Board all' }).first()).toBeVisible();
});
