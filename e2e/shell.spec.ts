import { gunzipSync } from 'node:zlib';
import { readFileSync } from 'node:fs';
import { generatedFile } from '../bench/lib/generated-recording.mjs';
import { expect, shownParts, stingList, test } from './stage';
import { choose } from './choose';

test('the search finds functions, stings, inputs and requests, and leads to each', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await tool.keyboard.press('/');
  const field = tool.getByRole('combobox', { name: 'Search the recording' });
  await field.fill('foldacc');
  await expect(tool.getByRole('option', { name: /foldAccents/ })).toBeVisible();
  await tool.keyboard.press('Enter');
  await tool.waitForURL(/\/calls\//);
  await expect(tool.locator('np-function-details h2')).toHaveText('foldAccents');

  await tool.keyboard.press('/');
  await field.fill('api/departures');
  await tool.getByRole('group', { name: 'Requests' }).getByRole('option').first().click();
  await tool.waitForURL(/\/timeline\/.*thing=requests\.\d+/);
  await expect(tool.locator('np-item-panel')).toContainText('Request');

  await tool.keyboard.press('/');
  await field.fill('nothing of this name');
  await expect(tool.getByText('Nothing found.')).toBeVisible();
  await tool.keyboard.press('Escape');
  await expect(field).toHaveCount(0);
});

test('the help sheet names the keys and explains the figures by the selected function', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await tool.locator('tr[data-name="onBoardAll"]').click();
  await expect(tool).toHaveURL(/function=\d+/);
  await tool.keyboard.press('?');
  const sheet = tool.getByRole('dialog', { name: 'Help' });
  await expect(sheet).toContainText('self time');
  await expect(sheet).toContainText(/onBoardAll: \d/);
  await expect(sheet.getByText('the sting before, the next')).toBeVisible();
});

test('the lens goes along from view to view, and back and forward work', async ({ stage }) => {
  const { tool } = stage;
  const views = tool.getByRole('navigation', { name: 'Views' });
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await tool.getByRole('img', { name: /^Overview of/ }).focus();
  await tool.keyboard.press('ArrowRight');
  await expect(tool).toHaveURL(/from=/);
  for (const view of ['Timeline', 'Calls', 'Source', 'Stings']) {
    await views.getByRole('link', { name: view }).click();
    await expect(tool).toHaveURL(new RegExp(`/${view.toLowerCase()}/.*from=`));
    await expect(tool.locator('np-lens-bar mat-chip')).toHaveCount(1);
    await expect(tool.getByRole('img', { name: /^Overview of/ })).toBeVisible();
    expect(await tool.evaluate(() => document.documentElement.scrollHeight - innerHeight), view).toBe(0);
  }
  await tool.goBack();
  await expect(tool).toHaveURL(/\/source\//);
  await tool.getByRole('button', { name: 'Clear lens' }).click();
  await expect(tool).not.toHaveURL(/from=/);
});

test('the page is called by the recording and the view, and figures are written as the language of the browser has them', async ({
  stage,
  browser,
}) => {
  const { tool, running } = stage;
  await expect(tool).toHaveTitle('Record · Nettle Patch');
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(tool).toHaveTitle('Friday sailing · Stings · Nettle Patch');
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await expect(tool).toHaveTitle('Friday sailing · Calls · Nettle Patch');
  const dearest = tool.locator('np-call-table tbody td').nth(1);
  const english = (await dearest.textContent())!;
  expect(english).toMatch(/^\d,\d{3}$/);

  const other = await browser.newContext({ locale: 'de-DE', reducedMotion: 'reduce' });
  const page = await other.newPage();
  await page.goto(running.address);
  await page.getByRole('button', { name: 'Demo recording' }).click();
  await page.waitForURL(/\/stings\//);
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await expect(page.locator('np-call-table tbody td').nth(1)).toHaveText(english.replace(',', '.'));
  await expect(page.locator('np-call-table tbody td.share').first()).toHaveText(/\d,\d %/);
  await other.close();
});

test('lengths are estimated for a slower device, and said to be', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  const first = stingList(tool).first();
  await expect(first).toContainText(/\d/);
  const recorded = await shownParts(tool);
  await choose(tool, 'Lengths in Stings and Calls', /4 × slower/);
  await expect(tool).toHaveURL(/slower=4/);
  await expect(first).toContainText('≈');
  await expect(tool.getByRole('status').filter({ hasText: 'On a device 4 × slower' })).toBeVisible();
  const slower = await shownParts(tool);
  expect(slower.feltMs).toBeGreaterThan(recorded.feltMs * 2);
  expect(slower.feltMs).toBeLessThanOrEqual(recorded.feltMs * 4 + 0.1);
  expect(Math.abs(slower.sumMs - slower.feltMs)).toBeLessThanOrEqual(recorded.feltMs * 0.01);
  const views = tool.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Calls' }).click();
  await expect(tool.getByRole('columnheader', { name: '≈ self ms' })).toBeVisible();
  await tool.getByRole('button', { name: 'Remove from lens: ≈ 4 × slower device' }).click();
  await expect(tool.getByRole('columnheader', { name: 'self ms', exact: true })).toBeVisible();
  await expect(tool).not.toHaveURL(/slower/);
});

test('stings are filtered by kind and by the lens, and a part of the drawing sets it', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  const all = await stingList(tool).count();
  await tool.getByRole('option', { name: /^late frames/ }).click();
  await expect(tool).toHaveURL(/kinds=late-frames/);
  expect(await stingList(tool).count()).toBeLessThan(all);
  await expect(stingList(tool).first()).toContainText('late frames');
  await tool.getByRole('option', { name: /^late frames/ }).click();
  await expect(stingList(tool)).toHaveCount(all);

  const drawing = tool.getByRole('application', { name: /^Anatomy of/ });
  const box = (await drawing.boundingBox())!;
  await tool.mouse.click(box.x + box.width / 2, box.y + 46);
  await tool.getByRole('button', { name: 'Set the lens to it' }).click();
  await expect(tool).toHaveURL(/from=[\d.]+&to=|to=[\d.]+&from=/);
});

test('settings hold: thresholds, whose code is whose, theme, editor, and texts in files', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  const settings = async (fill: () => Promise<void>) => {
    await tool.getByRole('button', { name: 'Settings' }).click();
    await fill();
    await tool.getByRole('button', { name: 'Save', exact: true }).click();
  };
  const dialog = tool.getByRole('dialog', { name: 'Settings' });
  await settings(() => tool.getByLabel(/Link that opens a place/).fill('javascript:alert({file})'));
  await expect(dialog.locator('mat-error')).toContainText('not safe');
  await tool.getByLabel(/Link that opens a place/).fill('editor://open?file={file}&line={line}');
  await dialog.getByRole('radio', { name: 'Dark' }).click();
  await tool.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toHaveCount(0);
  await expect(tool.locator('html')).toHaveAttribute('data-theme', 'dark');

  await settings(() => tool.getByLabel(/A response is slow from/).fill('60000'));
  await expect(stingList(tool).filter({ hasText: 'slow response' })).toHaveCount(0);
  await settings(async () => {
    await tool.getByLabel(/A response is slow from/).fill('');
    await tool.getByLabel('Library', { exact: false }).last().fill('src/desk/deck/**');
  });
  await expect(stingList(tool).filter({ hasText: 'Board all' }).first()).toBeVisible();
  await expect(tool.locator('np-blame')).toContainText('library script');

  await tool.reload();
  await expect(tool.locator('html')).toHaveAttribute('data-theme', 'dark');
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Source' }).click();
  const link = tool.getByRole('link', { name: 'Open in editor' });
  await expect(link).toHaveAttribute('href', /^editor:\/\/open\?file=src\/desk\/.*&line=\d+$/);

  await settings(() => dialog.getByRole('checkbox').uncheck());
  await expect(dialog).toHaveCount(0);
  const download = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Save file' }).click();
  const saved = gunzipSync(readFileSync(await (await download).path())).toString('utf8');
  expect(saved).not.toContain('"kind":"text"');
});

test('source without its text says so, and takes it from a file', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  const url = tool.url().replace('/stings/', '/source/').split('?')[0]!;
  await tool.goto(`${url}?file=src/desk/gone.ts`);
  await expect(tool.getByRole('heading', { name: 'The text of this file is not here' })).toBeVisible();
  const chooser = tool.waitForEvent('filechooser');
  await tool.getByRole('button', { name: 'Choose the file' }).click();
  const text = 'export const lanes = 4;\n';
  await (await chooser).setFiles({ name: 'gone.ts', mimeType: 'text/plain', buffer: Buffer.from(text) });
  await expect(tool.locator('.cm-content')).toContainText('lanes = 4');
});

test('long lists in Source begin with the dearest, and are whole when asked', async ({ stage }) => {
  const { tool } = stage;
  await expect(tool.getByRole('button', { name: 'Demo recording' })).toBeVisible();
  const buffer = generatedFile(20_000);
  await tool
    .getByLabel('Recording file')
    .setInputFiles({ name: 'watch.nettle.jsonl.gz', mimeType: 'application/gzip', buffer });
  await expect(stingList(tool).first()).toBeVisible();
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Source' }).click();
  const functions = tool.getByRole('navigation', { name: 'Files' }).getByRole('button', { name: /^step\d+/ });
  await expect(functions).toHaveCount(40);
  const dearest = await functions.allTextContents();
  const showAll = tool.getByRole('button', { name: /^Show all \d+ functions$/ });
  const count = Number(/\d+/.exec((await showAll.textContent())!)![0]);
  await showAll.click();
  await expect(functions).toHaveCount(count);
  expect((await functions.allTextContents()).slice(0, 40)).toEqual(dearest);
  await expect(showAll).toHaveCount(0);
});

test('the ground strip is there as a table too, with every sting and input in it', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  const strip = tool.getByRole('img', { name: /^Overview of/ });
  const told = /with (\d+) stings and (\d+) inputs/.exec((await strip.getAttribute('aria-label'))!)!;
  const rows = tool.getByRole('table', { name: /^The recording in \d+ parts/ }).locator('tbody tr');
  await expect(rows).toHaveCount(20);
  const sum = async (column: number) =>
    (await rows.locator(`td:nth-child(${column})`).allTextContents()).reduce(
      (all, one) => all + Number(one),
      0,
    );
  expect([await sum(3), await sum(4)]).toEqual([Number(told[1]), Number(told[2])]);
  await expect(rows.filter({ hasText: /own script/ }).first()).toBeAttached();
});
