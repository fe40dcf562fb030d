/**
 * Records the demo recordings that ship with the project, before and after its faults are mended: starts the boarding
 * desk and the server, uses the desk with real input in a real browser, and writes what the recorder saw.
 * With names as arguments ("friday-sailing", "friday-sailing-mended"), only those.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { RecordingClient, fileText, serve } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from './lib/browser.mjs';
import { listening } from './lib/listening.mjs';

const DEMOS = {
  'friday-sailing': { title: 'Friday sailing', query: '' },
  'friday-sailing-mended': {
    title: 'Friday sailing, mended',
    query: '?mended=all',
  },
};
const wanted = process.argv.slice(2);
const fileOf = (name) =>
  fileURLToPath(new URL(`../packages/app/public/demo/${name}.nettle.jsonl.gz`, import.meta.url));
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

async function useDesk(page) {
  await page.click('#board-all');
  await pause(900);
  await page.click('#undo-boarding');
  await pause(900);
  await page.click('#search-manifest');
  for (const letter of 'hakons') {
    await page.keyboard.press(letter);
    await pause(900);
  }
  await pause(800);
  const vehicle = await page.locator('.vehicle').nth(60).boundingBox();
  await page.mouse.move(vehicle.x + 4, vehicle.y + 4);
  await page.mouse.down();
  for (let step = 1; step <= 12; step++) {
    await page.mouse.move(vehicle.x + 4 + step * 9, vehicle.y + 4 + step * 3);
    await pause(40);
  }
  await page.mouse.up();
  await pause(1500);
  await page.click('#board-all');
  await pause(4200);
  await page.click('#undo-boarding');
  await pause(800);
}

const desk = await listening(createDeskServer());
const running = await serve({ target: desk.origin, port: 0, proxyPort: 0 });
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
try {
  const client = await RecordingClient.connect(running);
  for (const [name, { title, query }] of Object.entries(DEMOS)) {
    if (wanted.length > 0 && !wanted.includes(name)) continue;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${running.proxyOrigin}/${query}`);
    await page.waitForSelector('[data-ready]');
    await pause(1000);
    const target = await client.target();
    await client.start(target, name);
    await pause(600);
    await useDesk(page);
    const lines = await client.stop(target, name);
    await page.close();
    lines[0] = JSON.stringify({ ...JSON.parse(lines[0]), title });
    const file = fileOf(name);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, gzipSync(fileText(lines), { level: 9 }));
    console.log(`${lines.length} lines written to ${file}`);
  }
  client.close();
} finally {
  await browser.close();
  running.close();
  desk.close();
}
