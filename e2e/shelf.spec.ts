import { findStings, readRecording, thresholdsOf } from '../packages/server/dist/index.js';
import { generatedFile } from '../bench/lib/generated-recording.mjs';
import { readFileSync, writeFileSync } from 'node:fs';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { expect, stingList, test } from './stage';
import { choose } from './choose';

const DEMO = 'packages/app/public/demo/friday-sailing.nettle.jsonl.gz';
const DAMAGED_FILES = 24;

async function openDemo(tool: Page): Promise<void> {
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
}

const chooseFile = (tool: Page, name: string, buffer: Buffer) =>
  tool.getByLabel('Recording file').setInputFiles({ name, mimeType: 'application/gzip', buffer });

const card = (tool: Page, title: string) => tool.locator('.card').filter({ hasText: title });

async function chooseFromMenu(tool: Page, title: string, item: string): Promise<void> {
  await tool.getByRole('button', { name: `More about ${title}` }).click();
  await tool.getByRole('menuitem', { name: item }).click();
}

test('a recording is renamed, saved, deleted, and opened again from its file with the same stings', async ({
  stage,
}) => {
  const { tool } = stage;
  await openDemo(tool);
  const before = await stingList(tool).allTextContents();
  expect(before.length).toBeGreaterThan(1);

  await tool.getByRole('button', { name: 'Friday sailing' }).click();
  await tool.getByLabel('Title of the recording').fill('Before the mend');
  await tool.keyboard.press('Enter');
  await expect(tool.getByRole('button', { name: 'Before the mend' })).toBeVisible();

  const download = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Save file' }).click();
  const saved = await download;
  expect(saved.suggestedFilename()).toMatch(/^before-the-mend-\d{4}-\d\d-\d\d\.nettle\.jsonl\.gz$/);
  const bytes = readFileSync(await saved.path());

  await tool.getByRole('link', { name: 'Shelf' }).click();
  await chooseFromMenu(tool, 'Before the mend', 'Delete');
  await expect(card(tool, 'Before the mend')).toHaveCount(0);

  await chooseFile(tool, saved.suggestedFilename(), bytes);
  await tool.waitForURL(/\/stings\//);
  await expect(tool.getByRole('button', { name: 'Before the mend' })).toBeVisible();
  expect(await stingList(tool).allTextContents()).toEqual(before);
  await expect(tool.locator('np-notices li')).toHaveCount(0);
});

test('deleting can be undone', async ({ stage }) => {
  const { tool } = stage;
  await openDemo(tool);
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await chooseFromMenu(tool, 'Friday sailing', 'Delete');
  await tool.getByRole('button', { name: 'Undo' }).click();
  await card(tool, 'Friday sailing').getByRole('link', { name: 'Friday sailing' }).click();
  await expect(stingList(tool).first()).toBeVisible();
});

test('a file can be dropped anywhere', async ({ stage }) => {
  const { tool } = stage;
  const base64 = readFileSync(DEMO).toString('base64');
  const data = await tool.evaluateHandle(async (text) => {
    const bytes = Uint8Array.from(atob(text), (character) => character.charCodeAt(0));
    const transfer = new DataTransfer();
    transfer.items.add(new File([bytes], 'friday.nettle.jsonl.gz'));
    return transfer;
  }, base64);
  await tool.dispatchEvent('np-root', 'dragover', { dataTransfer: data });
  await expect(tool.getByText('Drop recordings, or steps to be done')).toBeVisible();
  await tool.dispatchEvent('np-root', 'drop', { dataTransfer: data });
  await expect(stingList(tool).first()).toBeVisible();
});

test('a cut-off file opens up to the cut, and says so', async ({ stage }) => {
  const { tool } = stage;
  const lines = gunzipSync(readFileSync(DEMO)).toString('utf8').split('\n');
  const cut = lines.slice(0, Math.floor(lines.length * 0.6)).join('\n') + '\n' + lines.at(-4)!.slice(0, 9);
  await chooseFile(tool, 'cut.nettle.jsonl.gz', gzipSync(cut));
  await expect(tool.locator('np-notices')).toContainText('The recording is cut off');
  await expect(stingList(tool).first()).toBeVisible();
});

test('what is no recording, and what is of a newer version, are refused in words', async ({ stage }) => {
  const { tool } = stage;
  await chooseFile(tool, 'letter.jsonl', Buffer.from('Dear harbour master,\n'));
  await expect(tool.getByText('This file cannot be used')).toBeVisible();
  const newer = gunzipSync(readFileSync(DEMO)).toString('utf8').replace('"version":"1.0"', '"version":"2.0"');
  await chooseFile(tool, 'newer.jsonl', Buffer.from(newer));
  await expect(tool.getByText('This recording cannot be read: it has format version 2.0')).toBeVisible();
  await chooseFile(tool, 'empty.jsonl', Buffer.from(''));
  await expect(tool.getByText('This file is empty')).toBeVisible();
});

/** Numbers from 0 up to 1, the same in every run. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

test(`${DAMAGED_FILES} randomly damaged files each give a message, and no crash`, async ({ stage }) => {
  test.setTimeout(480_000);
  const { tool } = stage;
  const crashes: string[] = [];
  tool.on('pageerror', (error) => crashes.push(error.message));
  const plain = gunzipSync(readFileSync(DEMO));
  const random = seeded(1240);
  const toShelf = async () => {
    await tool.getByRole('link', { name: 'Shelf' }).click();
    await expect(tool.getByRole('heading', { name: 'Shelf', level: 1 })).toBeVisible();
  };
  await toShelf();
  for (let run = 0; run < DAMAGED_FILES; run++) {
    const bytes = Buffer.from(
      plain.toString('utf8').replace('"id":"friday-sailing"', `"id":"damaged-${run}"`),
    );
    for (let hits = 0; hits < 1 + (run % 3); hits++) {
      const place = Math.floor(random() * bytes.length);
      bytes[place] = (bytes[place]! + 1 + Math.floor(random() * 255)) % 256;
    }
    const damaged = run % 2 === 0 ? bytes : gzipSync(bytes).subarray(0, 40 + Math.floor(random() * 5000));
    await chooseFile(tool, 'damaged.nettle.jsonl.gz', Buffer.from(damaged));
    await expect(
      tool.locator('np-notices li, mat-snack-bar-container').first(),
      `damaged file ${run}`,
    ).toBeVisible();
    const refusal = tool.locator('mat-snack-bar-container').getByRole('button', { name: 'Close' });
    if (await refusal.isVisible()) {
      await refusal.click();
      await expect(refusal, 'gone before the next file').toHaveCount(0);
    }
    await toShelf();
  }
  expect(crashes).toEqual([]);
});

test('reading a large file can be cancelled: nothing of it is kept, and the next is read', async ({
  stage,
}, info) => {
  const { tool } = stage;
  const path = info.outputPath('long-watch.nettle.jsonl.gz');
  writeFileSync(path, generatedFile(3_000_000));
  await tool.getByLabel('Recording file').setInputFiles(path);
  const reading = tool.locator('np-reading');
  await expect(reading).toContainText('Reading the file');
  await reading.getByRole('button', { name: 'Cancel' }).click();
  await expect(reading.getByRole('status')).toHaveCount(0);
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await expect(tool.locator('.card')).toHaveCount(0);
  await tool
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: 'Record', exact: true })
    .click();
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(tool.getByTestId('because')).toBeVisible();
});

test('recordings are found, put in order, tagged, and tags make a trend that opens them', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Shelf' }).click();
  const names = ['friday-sailing', 'friday-sailing-mended'];
  const demo = (name: string) => `packages/app/public/demo/${name}.nettle.jsonl.gz`;
  await tool.locator('np-shelf').getByLabel('Recording file').setInputFiles(names.map(demo));
  await expect(tool.locator('.card')).toHaveCount(2);
  for (const title of ['Friday sailing', 'Friday sailing, mended']) {
    await tool.getByRole('link', { name: title, exact: true }).click();
    await expect(tool.getByRole('button', { name: 'Save file' })).toBeVisible();
    await tool.getByRole('link', { name: 'Shelf' }).click();
    await tool.getByRole('button', { name: `More about ${title}`, exact: true }).click();
    await tool.getByRole('menuitem', { name: 'Tag' }).click();
    await tool.getByLabel('Tags, with commas between them').fill('quay, quay, release 4');
    await tool.keyboard.press('Enter');
    await expect(card(tool, title).locator('mat-chip').filter({ hasText: 'quay' }).first()).toBeVisible();
  }
  await choose(tool, 'Order', 'Oldest first');
  await expect(tool.locator('.card h2').first()).toHaveText('Friday sailing');
  await tool.getByLabel('Find recordings').fill('mended release');
  await expect(tool.locator('.card')).toHaveCount(1);
  await tool.getByLabel('Find recordings').fill('');
  await expect(tool.getByText(/ of .* used/)).toBeVisible();

  await tool.getByRole('listbox', { name: 'Tags' }).getByRole('option', { name: 'quay 2' }).click();
  const chart = tool.getByRole('img', {
    name: 'Slowest response of the recordings tagged “quay”, in order of time',
  });
  await expect(chart).toBeVisible();
  const told = tool.locator('np-trend td');
  await expect(told).toHaveText([/^\d+ ms$/, /^\d+ ms$/]);
  const [was, is] = (await told.allTextContents()).map(parseFloat);
  expect(was).toBeGreaterThan(5 * is!);
  await tool.getByRole('radio', { name: 'Stings' }).click();
  const stings = names.map((name) => {
    const { recording } = readRecording([gunzipSync(readFileSync(demo(name)))]);
    return String(findStings(recording, thresholdsOf(recording.header)).length);
  });
  expect(Number(stings[0])).toBeGreaterThan(5);
  await expect(told).toHaveText(stings);
  await tool.waitForTimeout(400);
  const box = (await tool.locator('np-trend canvas').boundingBox())!;
  await tool.mouse.click(box.x + box.width - 60, box.y + box.height / 2);
  await tool.waitForURL(/\/stings\/friday-sailing-mended/);
});

test('of several files dropped at once those that are recordings are kept, and the other is named', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await tool
    .locator('np-shelf')
    .getByLabel('Recording file')
    .setInputFiles([
      { name: 'timetable.gz', mimeType: 'application/gzip', buffer: Buffer.from('no recording at all') },
      { name: 'friday.gz', mimeType: 'application/gzip', buffer: readFileSync(DEMO) },
    ]);
  await expect(tool.getByText('timetable.gz: This file cannot be used')).toBeVisible();
  await expect(tool.locator('.card')).toHaveCount(1);
});

test('whatever is brought to a button for files goes where it belongs; what belongs nowhere is told, but never repeated', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Shelf' }).click();
  const bring = (name: string, text: string | Buffer) =>
    tool
      .getByLabel('Recording file')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) });
  await bring('friday.txt', '{"steps":[{"do":"click","on":"#board-all"}]}');
  const dialog = tool.getByRole('dialog', { name: 'Repeat automatically' });
  await expect(dialog.getByRole('listitem')).toContainText('#board-all');
  await dialog.getByLabel('File of steps').setInputFiles(DEMO);
  await tool.waitForURL(/\/stings\/friday-sailing/);
  await expect(dialog).toHaveCount(0);

  await tool.getByRole('link', { name: 'Shelf' }).click();
  const told = (words: string) => tool.locator('mat-snack-bar-container').filter({ hasText: words });
  await bring('budget.json', '{"responses":[{"label":"*","ms":200}]}');
  await expect(told('budget.json: This is a budget')).toBeVisible();
  await bring('steps.json', '{"steps":[{"do":"sail"}]}');
  await expect(told('steps.json: These steps cannot be done: step 1: "do" must be one of')).toBeVisible();
  await bring('cargo.json', '{"cargo": lighthouse}');
  await expect(told('cargo.json: This file cannot be used')).toBeVisible();
  await expect(told('lighthouse')).toHaveCount(0);
  await expect(tool.locator('.card')).toHaveCount(1);
});

test('folded stacks of a server are shown in Calls alone, and the tool says why', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await tool
    .locator('np-shelf')
    .getByLabel('Recording file')
    .setInputFiles({
      name: 'timetable-server.folded',
      mimeType: 'text/plain',
      buffer: Buffer.from(
        'main;loadTimetable (src/timetable.ts:12);parse (src/parse.ts:3) 70\nmain;answer 30\n',
      ),
    });
  await tool.waitForURL(/\/calls\/imported-/);
  await expect(tool.locator('np-call-table tr').filter({ hasText: 'main' }).first()).toBeVisible();
  await expect(tool.getByText('Folded stacks have no times')).toBeVisible();
  const views = tool.getByRole('navigation', { name: 'Views' });
  await expect(views.getByRole('link', { name: 'Calls' })).toBeVisible();
  await expect(views.getByRole('link', { name: 'Stings' })).toHaveCount(0);
  await tool.getByRole('radio', { name: 'Flat' }).click();
  await expect(tool.locator('[role=grid] tr[data-at]').filter({ hasText: 'parse' })).toContainText('70');
});

test('several recordings are chosen, compared, tagged, and deleted with one undo; what was looked for stays', async ({
  stage: { tool },
}) => {
  const shelf = () => tool.getByRole('link', { name: 'Shelf' }).click();
  await shelf();
  const demo = (name: string) => `packages/app/public/demo/${name}.nettle.jsonl.gz`;
  const files = ['friday-sailing-mended', 'friday-sailing'].map(demo);
  await tool.locator('np-shelf').getByLabel('Recording file').setInputFiles(files);
  await expect(tool.locator('.card')).toHaveCount(2);
  const chosen = tool.getByRole('region', { name: 'Chosen recordings' });
  await tool.getByLabel('Choose Friday sailing, mended').check();
  await expect(chosen.getByRole('link', { name: 'Compare' })).toHaveCount(0);
  await tool.getByLabel('Choose Friday sailing', { exact: true }).check();
  await expect(chosen).toContainText('2 recordings chosen');

  await chosen.getByRole('button', { name: 'Tag' }).click();
  await chosen.getByLabel('Tags for all of them').fill('quay');
  await tool.keyboard.press('Enter');
  await expect(tool.locator('.card mat-chip').filter({ hasText: 'quay' })).toHaveCount(2);

  await chosen.getByRole('button', { name: 'Delete' }).click();
  await expect(tool.locator('.card')).toHaveCount(0);
  await tool.getByRole('button', { name: 'Undo all' }).click();
  await expect(tool.locator('.card')).toHaveCount(2);

  await tool.getByLabel('Find recordings').fill('mended');
  await expect(tool.locator('.card')).toHaveCount(1);
  await tool.getByRole('link', { name: 'Record', exact: true }).click();
  await shelf();
  await expect(tool.getByLabel('Find recordings')).toHaveValue('mended');
  await tool.reload();
  await expect(tool.locator('.card')).toHaveCount(1);
  await tool.getByLabel('Find recordings').fill('');

  await tool.getByLabel('Choose Friday sailing, mended').check();
  await tool.getByLabel('Choose Friday sailing', { exact: true }).check();
  await chosen.getByRole('link', { name: 'Compare' }).click();
  await tool.waitForURL(/before=friday-sailing&after=friday-sailing-mended/);
});
