/** Makes the pictures of the main views in docs/screenshots from the boarding desk and the demo recording. */
import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { chromium } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { scriptedParts, serve } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from './lib/browser.mjs';

const file = (name) => fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url));
/** The same steps in three engines, a file each. */
async function inThreeEngines() {
  const folder = mkdtempSync(join(tmpdir(), 'three-engines-'));
  const steps = [
    { do: 'wait-for', on: '[data-ready]' },
    { do: 'click', on: '#board-all' },
    { do: 'wait', ms: 1200 },
    { do: 'click', on: '#undo-boarding' },
    { do: 'wait', ms: 600 },
  ];
  writeFileSync(join(folder, 'steps.json'), JSON.stringify({ steps }));
  const engines = ['chromium', 'firefox', 'webkit'];
  const command = [
    fileURLToPath(new URL('../packages/server/bin/nettle-patch.js', import.meta.url)),
    'record',
  ];
  const flags = ['--mode', 'fine', '--repeat', '8', '--browser', engines.join(','), '--steps', 'steps.json'];
  const address = `http://localhost:${desk.address().port}/`;
  const given = [...command, address, ...flags, '--out', 'desk.jsonl'];
  await promisify(execFile)(process.execPath, given, { cwd: folder });
  return engines.map((engine) => join(folder, `desk-${engine}.jsonl`));
}
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const desk = createDeskServer();
await new Promise((resolve) => desk.listen(4790, '127.0.0.1', resolve));
const running = await serve({
  target: `http://localhost:${desk.address().port}`,
  port: 4780,
  proxyPort: 4781,
  settings: { mode: 'fine', isModeChosen: true },
  parts: scriptedParts,
});
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
try {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const tool = await context.newPage();
  await tool.goto(running.address);
  const page = await context.newPage();
  await page.goto(running.proxyOrigin);
  await page.waitForSelector('[data-ready]');
  await pause(600);
  await page.screenshot({ path: file('boarding-desk') });

  await tool.bringToFront();
  await pause(600);
  await tool.screenshot({ path: file('record') });
  await tool.getByRole('button', { name: 'Record', exact: true }).click();
  await pause(700);
  await page.bringToFront();
  await page.click('#board-all');
  await pause(1200);
  await page.click('#undo-boarding');
  await pause(500);
  await page.click('#search-manifest');
  await page.keyboard.type('hak', { delay: 700 });
  await pause(1800);
  await tool.bringToFront();
  await pause(400);
  await tool.screenshot({ path: file('recording') });
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);
  await tool.locator('np-culprits .hot').first().waitFor();
  await pause(1500);
  await tool.screenshot({ path: file('stings-lines') });
  await tool.locator('np-culprits .hot').first().click();
  await tool.locator('.cm-content').waitFor();
  await pause(900);
  await tool.screenshot({ path: file('source') });
  await tool.getByRole('button', { name: 'Repeat automatically' }).click();
  await tool.getByRole('radio', { name: 'chromium' }).waitFor();
  await pause(900);
  await tool.screenshot({ path: file('again') });
  await tool.getByRole('button', { name: 'Close' }).click();

  await tool.getByRole('link', { name: 'Record', exact: true }).click();
  await tool.getByRole('button', { name: 'Record', exact: true }).click();
  await pause(700);
  await page.bringToFront();
  await page.goto(`${running.proxyOrigin}/?mended=departures-poll,ticker,tide-chart`);
  await page.waitForSelector('[data-ready]');
  await pause(500);
  await page.click('#crew-roster');
  await pause(2500);
  await tool.bringToFront();
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);
  await tool
    .getByRole('list', { name: /^Stings: / })
    .getByRole('button')
    .filter({ hasText: 'slow outcome' })
    .first()
    .click();
  await tool.mouse.move(560, 26);
  await pause(700);
  await tool.screenshot({ path: file('slow-outcome') });

  await tool.getByRole('link', { name: 'Record', exact: true }).click();
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.locator('np-culprits tbody tr').first().waitFor();
  const sting = (label) =>
    tool
      .getByRole('list', { name: /^Stings: / })
      .getByRole('button')
      .filter({ hasText: label })
      .first();
  /** A picture at another size than the usual one. */
  const shotAt = async (width, height, name) => {
    await tool.setViewportSize({ width, height });
    await pause(900);
    await tool.screenshot({ path: file(name) });
    await tool.setViewportSize({ width: 1280, height: 800 });
    await pause(300);
  };
  const view = (name) => tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name }).click();
  await sting('Board all').click();
  await tool.mouse.move(560, 26);
  await pause(700);
  await tool.screenshot({ path: file('stings') });
  await view('Calls');
  const rows = tool.locator('np-call-table tbody tr');
  await rows.first().waitFor();
  for (const name of ['onSearchInput', 'search', 'searchSlowly']) {
    await tool.locator(`tr[data-name="${name}"] .twist`).first().click();
    await pause(300);
  }
  await tool.locator('tr[data-name="onSearchInput"]').click();
  await tool.mouse.move(560, 26);
  await pause(700);
  await shotAt(1024, 768, 'calls');
  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  await tool.mouse.move(560, 26);
  await pause(800);
  await tool.screenshot({ path: file('calls-flame') });
  await view('Timeline');
  await tool.locator('[data-lane="thread 0"]').waitFor();
  await tool.getByRole('radio', { name: 'Table' }).click();
  await tool
    .locator('np-item-table tbody tr')
    .filter({ hasText: 'makeRoomOneByOne' })
    .first()
    .getByRole('button')
    .click();
  await tool.getByRole('radio', { name: 'In time' }).click();
  await pause(600);
  await tool.getByRole('button', { name: 'Zoom to it' }).click();
  await tool.getByRole('button', { name: 'Zoom out' }).click();
  await tool.getByRole('button', { name: 'Zoom out' }).click();
  await tool.mouse.move(560, 26);
  await pause(900);
  await shotAt(1920, 1080, 'timeline');
  await tool.getByRole('radio', { name: 'Ladder' }).click();
  await pause(900);
  await tool.screenshot({ path: file('ladder') });
  await tool.emulateMedia({ colorScheme: 'dark' });
  await view('Stings');
  await sting('onDragMove').click();
  await tool.mouse.move(560, 26);
  await pause(900);
  await shotAt(1920, 1080, 'stings-dark');
  await tool.emulateMedia({ colorScheme: 'light' });
  await view('Compare');
  await tool.getByRole('button', { name: 'See the demo: before and after' }).click();
  await tool.locator('np-anatomy-pair').waitFor();
  await tool.locator('.series th button').filter({ hasText: 'Search manifest' }).first().click();
  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  await tool.mouse.move(560, 26);
  await pause(900);
  await tool.screenshot({ path: file('compare') });
  for (const title of ['Friday sailing', 'Friday sailing, mended']) {
    await view('Shelf');
    await tool.getByRole('link', { name: title, exact: true }).click();
    await tool.getByRole('button', { name: 'Save file' }).waitFor();
    await view('Shelf');
    await tool.getByRole('button', { name: `More about ${title}`, exact: true }).click();
    await tool.getByRole('menuitem', { name: 'Tag' }).click();
    await tool.getByLabel('Tags, with commas between them').fill('release 4');
    await tool.keyboard.press('Enter');
    await pause(300);
  }
  await tool.getByRole('listbox', { name: 'Tags' }).getByRole('option').first().click();
  await tool.mouse.move(560, 26);
  await pause(900);
  await tool.screenshot({ path: file('shelf') });
  await tool.getByRole('listbox', { name: 'Tags' }).getByRole('option').first().click();
  await tool
    .locator('np-shelf')
    .getByLabel('Recording file')
    .setInputFiles(await inThreeEngines());
  const cards = tool.locator('.card').filter({ hasText: 'The steps, ' });
  await cards.nth(2).waitFor();
  for (const at of [0, 1, 2]) await cards.nth(at).getByRole('checkbox').check();
  await tool
    .getByRole('region', { name: 'Chosen recordings' })
    .getByRole('link', { name: 'Compare' })
    .click();
  await tool.getByTestId('several').waitFor();
  await tool.mouse.move(560, 26);
  await pause(900);
  await tool.screenshot({ path: file('several') });
  await view('Trials');
  await tool.getByRole('button', { name: 'Open the demo trial' }).click();
  await tool.getByRole('button', { name: 'Run', exact: true }).click();
  await tool.getByRole('button', { name: 'Stop' }).waitFor();
  await tool.getByRole('button', { name: 'Run', exact: true }).waitFor({ timeout: 90_000 });
  await pause(500);
  await tool.screenshot({ path: file('trials') });
  await view('Record');
  await tool.getByRole('button', { name: /^A native app/ }).click();
  await tool.getByRole('button', { name: 'Start the deckhand’s phone' }).click();
  const phone = tool.getByRole('radio', { name: /Deckhand/ });
  await phone.waitFor();
  await phone.click();
  await pause(500);
  await tool.getByRole('button', { name: 'Record', exact: true }).click();
  await pause(13_500);
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);
  await pause(800);
  await view('Timeline');
  await tool.locator('[data-lane="sync"]').waitFor();
  await tool.mouse.move(560, 26);
  await pause(900);
  await tool.screenshot({ path: file('timeline-phone') });

  await running.lan.open('127.0.0.2');
  const room = await browser.newPage({
    viewport: { width: 390, height: 780 },
    hasTouch: true,
    isMobile: true,
    userAgent: 'Mozilla/5.0 (Linux; Android 14; Skerry 3) Chrome/156.0.0.0 Mobile Safari/537.36',
  });
  await room.goto(running.lan.state.joinUrl);
  await room.getByRole('button').tap();
  await room.waitForSelector('[data-ready]');
  await view('Record');
  await tool.getByRole('radio', { name: /than this computer|as this computer/ }).click();
  await pause(900);
  await tool.screenshot({ path: file('record-room') });
} finally {
  await browser.close();
  running.close();
  desk.close();
  desk.closeAllConnections();
}
