/**
 * Records the interface with Nettle Patch itself while somebody hurries through a large recording, and writes what was
 * recorded to the file that is given. For original names build the interface with source maps before:
 * `cd packages/app && npx ng build --source-map`. With a display the browser has a window: without one it tells of the
 * press that begins a drag as if no picture came before its end, though pictures came all the while.
 */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { generatedFile } from '../bench/lib/generated-recording.mjs';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { RecordingClient, fileText, serve } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from './lib/browser.mjs';
import { watchSlowness } from './lib/slowness.mjs';
import { listening } from './lib/listening.mjs';

const [out = 'itself.nettle.jsonl.gz', calls = '1000000', mode = 'everyday'] = process.argv.slice(2);
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** The way of a person in a hurry, through every view. */
async function hurry(tool, path) {
  const view = (name) => tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name }).click();
  await tool.getByLabel('Recording file').setInputFiles(path);
  await tool.getByRole('application', { name: /^Anatomy of/ }).waitFor({ timeout: 120_000 });
  for (let step = 0; step < 4; step++) {
    await tool.keyboard.press('j');
    await pause(250);
  }
  const strip = await tool.getByRole('img', { name: /^Overview of/ }).boundingBox();
  await tool.mouse.move(strip.x + 200, strip.y + 30);
  await tool.mouse.down();
  await tool.mouse.move(strip.x + 700, strip.y + 30, { steps: 25 });
  await tool.mouse.up();
  await pause(500);
  await view('Timeline');
  await tool.locator('[data-lane="thread 0"]').waitFor({ timeout: 60_000 });
  await pause(800);
  const canvas = await tool.getByRole('application').boundingBox();
  await tool.mouse.move(canvas.x + 300, canvas.y + 100);
  for (const key of ['Control', 'Shift']) {
    await tool.keyboard.down(key);
    for (let turn = 0; turn < 25; turn++) await tool.mouse.wheel(0, turn < 15 ? -180 : 180);
    await tool.keyboard.up(key);
  }
  await tool.getByRole('radio', { name: 'Ladder' }).click();
  await pause(1000);
  await view('Calls');
  await tool.locator('np-call-table tbody tr').first().waitFor({ timeout: 60_000 });
  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  await pause(1000);
  await view('Source');
  await tool.locator('np-source nav li').first().waitFor({ timeout: 60_000 });
  await pause(1000);
}

const folder = mkdtempSync(join(tmpdir(), 'itself-'));
const path = join(folder, 'long-watch.nettle.jsonl.gz');
writeFileSync(path, generatedFile(Number(calls)));
const desk = await listening(createDeskServer());
const recorded = await serve({ target: desk.origin, port: 0, proxyPort: 0 });
const recording = await serve({
  target: recorded.interfaceOrigin,
  port: 0,
  proxyPort: 0,
  settings: { mode },
});
const browser = await chromium.launch({
  executablePath: chromiumPath,
  args: chromiumFlags,
  headless: process.env['DISPLAY'] === undefined,
});
try {
  const client = await RecordingClient.connect(recording);
  const tool = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await tool.goto(recorded.address.replace(recorded.interfaceOrigin, recording.proxyOrigin));
  await tool.getByRole('button', { name: 'Demo recording' }).waitFor();
  await pause(1500);
  const slowness = await watchSlowness(await browser.newPage());
  await tool.bringToFront();
  const target = await client.target();
  await client.start(target, 'itself');
  await pause(500);
  await hurry(tool, path);
  const lines = await client.stop(target, 'itself');
  writeFileSync(out, gzipSync(fileText(lines)));
  console.log(
    `${lines.length} rows written to ${out}. The machine was ${(await slowness()).toFixed(2)} × slower than at its best.`,
  );
  client.close();
} finally {
  await browser.close();
  recording.close();
  recorded.close();
  desk.close();
  rmSync(folder, { recursive: true, force: true });
}
