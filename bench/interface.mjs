/**
 * How the interface keeps up: frame times while the time view is zoomed, moved and hovered over, with the sums of what is
 * in view beside it, time from a file to its first sting, and memory, at 10 thousand, 1 million and 5 million calls.
 * Frame times are held against those of the same page at rest, measured in the same run.
 * `npm run bench -- interface [--spans 10000,1000000] [--json]`
 */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { serve } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { generatedFile } from './lib/generated-recording.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { listening } from '../scripts/lib/listening.mjs';

const sizes = valueOf('--spans', '10000,1000000,5000000').split(',').map(Number);
const percentile = (sorted, share) =>
  sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)];

/** Gathers the times between frames, and tasks over 50 ms, while something is done in the page. */
async function framesDuring(page, act) {
  await page.evaluate(() => {
    const scope = globalThis;
    scope.frameTimes = [];
    let before = performance.now();
    scope.watching = true;
    const frame = (nowMs) => {
      scope.frameTimes.push(nowMs - before);
      before = nowMs;
      if (scope.watching) requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
  await act();
  const times = await page.evaluate(() => {
    globalThis.watching = false;
    return globalThis.frameTimes.slice(2);
  });
  const sorted = times.sort((a, b) => a - b);
  return {
    frames: sorted.length,
    medianMs: percentile(sorted, 0.5),
    p95Ms: percentile(sorted, 0.95),
    longestMs: sorted.at(-1),
  };
}

async function turnWheel(page, key, turn) {
  await page.keyboard.down(key);
  for (let step = 0; step < 60; step++) {
    await page.mouse.wheel(0, turn(step));
    await page.waitForTimeout(16);
  }
  await page.keyboard.up(key);
}

/** The pointer goes over the lanes, so that the hover card tells of one thing after the other. */
async function hoverOver(page, { x, y, width, height }) {
  for (let step = 0; step < 60; step++) {
    await page.mouse.move(x + 20 + ((width - 40) * step) / 60, y + 60 + ((step * 37) % (height - 80)));
    await page.waitForTimeout(16);
  }
}

async function measure(browser, address, spans, folder) {
  const path = join(folder, `${spans}.nettle.jsonl.gz`);
  writeFileSync(path, generatedFile(spans));
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(address);
  await page.getByRole('button', { name: 'Demo recording' }).waitFor();
  await page.waitForTimeout(1000);
  await page.evaluate(() => {
    globalThis.longTasks = [];
    new globalThis.PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) globalThis.longTasks.push(duration);
    }).observe({ type: 'longtask' });
  });
  const startedAt = performance.now();
  await page.getByLabel('Recording file').setInputFiles(path);
  await page.getByRole('list', { name: 'Stings' }).getByRole('button').first().waitFor({ timeout: 300_000 });
  const toFirstStingMs = performance.now() - startedAt;
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Timeline' }).click();
  await page.locator('[data-lane="thread 0"]').waitFor({ timeout: 120_000 });
  await page.waitForTimeout(1500);
  const atRest = await framesDuring(page, () => page.waitForTimeout(1500));
  const box = await page.getByRole('application').boundingBox();
  await page.mouse.move(box.x + 300, box.y + 100);
  const zooming = await framesDuring(page, () =>
    turnWheel(page, 'Control', (step) => (step < 40 ? -90 : 90)),
  );
  const moving = await framesDuring(page, () => turnWheel(page, 'Shift', (step) => (step < 30 ? 60 : -60)));
  const hovering = await framesDuring(page, () => hoverOver(page, box));
  const isCardShown = (await page.locator('np-time-view np-hover-card').count()) > 0;
  const isSummed = (await page.locator('np-range-sums').count()) > 0;
  const longestTaskMs = await page.evaluate(() => Math.max(0, ...globalThis.longTasks));
  const heapMb = await page.evaluate(() => performance.memory.usedJSHeapSize / 2 ** 20);
  await context.close();
  return {
    spans,
    toFirstStingMs,
    atRest,
    zooming,
    moving,
    hovering,
    isCardShown,
    isSummed,
    longestTaskMs,
    heapMb,
  };
}

const desk = await listening(createDeskServer());
const running = await serve({ target: desk.origin, port: 0, proxyPort: 0 });
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
const folder = mkdtempSync(join(tmpdir(), 'interface-'));
const figures = [];
try {
  for (const spans of sizes) {
    const figure = await measure(browser, running.address, spans, folder);
    figures.push(figure);
    const words = ({ frames, medianMs, p95Ms, longestMs }) =>
      `median ${medianMs.toFixed(1)} ms (${(medianMs / figure.atRest.medianMs).toFixed(2)} × at rest), 95th percentile ${p95Ms.toFixed(1)}, longest ${longestMs.toFixed(0)}, ${frames} frames`;
    say(
      [
        `${spans.toLocaleString('en')} calls`,
        `  from the file to the first sting  ${(figure.toFirstStingMs / 1000).toFixed(2)} s`,
        `  frames at rest                    ${words(figure.atRest)}`,
        `  frames while zooming              ${words(figure.zooming)}`,
        `  frames while moving               ${words(figure.moving)}`,
        `  frames while hovering             ${words(figure.hovering)}, ${figure.isCardShown ? 'with' : 'without'} the hover card, ${figure.isSummed ? 'with' : 'without'} the sums beside`,
        `  longest task of the interface     ${figure.longestTaskMs.toFixed(0)} ms (target 50)`,
        `  memory of the interface           ${figure.heapMb.toFixed(0)} MB of script, without its workers`,
      ].join('\n'),
    );
  }
} finally {
  await browser.close();
  running.close();
  desk.close();
  rmSync(folder, { recursive: true });
}
if (asJson) console.log(JSON.stringify({ figures }, null, 2));
process.exit(0);
