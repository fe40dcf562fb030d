/**
 * `node scripts/first-walk.mjs [FILE]`: goes the way of somebody who sees Nettle Patch for the first time, from
 * `npm start` to the line at fault of a slow tap, and writes each step with the time since the start as Markdown.
 */
import { spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { chromium } from '@playwright/test';
import { chromiumFlags, chromiumPath } from './lib/browser.mjs';
import { root } from './lib/prepare.mjs';

/** How long somebody looks at a screen that is new to them before doing something. */
const LOOKS_MS = 3000;
const LIMIT_S = 120;

const [file] = process.argv.slice(2);
const begin = performance.now();
const steps = [];
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Does something after a look at the screen, and notes when it was done. */
async function step(words, act) {
  await pause(LOOKS_MS);
  const result = await act();
  done(words);
  return result;
}

function done(words) {
  const seconds = (performance.now() - begin) / 1000;
  steps.push({ words, seconds });
  console.log(`${seconds.toFixed(1).padStart(6)} s  ${words}`);
}

const started = spawn('npm', ['start'], { cwd: root, stdio: ['ignore', 'pipe', 'inherit'], detached: true });
let browser;
try {
  const address = await new Promise((resolve, reject) => {
    let text = '';
    started.stdout.on('data', (piece) => {
      text += piece;
      const found = /Open this address:\s+(\S+)/.exec(text);
      if (found) resolve(found[1]);
    });
    started.once('exit', (code) => reject(new Error(`npm start ended with code ${code}`)));
  });
  done('`npm start` has prepared everything and prints an address');
  browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const tool = await context.newPage();
  await tool.goto(address);
  await tool.getByRole('link', { name: 'Open the app' }).waitFor();
  done('The address is opened: the view Record, with a button "Open the app"');
  await step('How closely: "Fine", as it tells lines', () =>
    tool.getByRole('radio', { name: /^Fine/ }).click(),
  );
  const [app] = await step('"Open the app": the boarding desk in a tab of its own', () =>
    Promise.all([
      context.waitForEvent('page'),
      tool.getByRole('link', { name: 'Open the app' }).first().click(),
    ]),
  );
  await app.waitForSelector('[data-ready]');
  await tool.bringToFront();
  await step('Its card is there; "Record"', async () => {
    const record = tool.getByRole('button', { name: 'Record', exact: true });
    await record.click();
    await tool.getByText('Recording ·').waitFor();
  });
  await app.bringToFront();
  await step('In the app, a tap on "Board all", which takes long', async () => {
    await app.click('#board-all');
    await app.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 100))));
  });
  await tool.bringToFront();
  await step('"Stop": Stings, with the tap first', async () => {
    await tool.getByRole('button', { name: 'Stop' }).click();
    await tool.getByTestId('because').waitFor();
  });
  const because = (await tool.getByTestId('because').innerText()).replaceAll(/\s+/g, ' ');
  done(`It says: "${because}"`);
  const line = tool.locator('np-culprits a.hot').first();
  const at = (await line.innerText()).replaceAll(/\s+/g, ' ');
  await step(`The line that took most is clicked: "${at}"`, () => line.click());
  await tool.locator('.cm-content').waitFor();
  const shown = await tool.locator('.cm-content').getAttribute('aria-label');
  done(`${shown}, at this line`);
} finally {
  await browser?.close();
  process.kill(-started.pid);
}

const { seconds } = steps.at(-1);
const written = [
  '# The first two minutes',
  '',
  `From \`npm start\` on a machine where the project was installed and built before to the line at fault, by somebody who has read nothing: ${LOOKS_MS / 1000} s of looking before each thing that is done. Written by \`node scripts/first-walk.mjs docs/first-walk.md\` on ${cpus().length} cores.`,
  '',
  '| after | step |',
  '| ---: | --- |',
  ...steps.map(({ words, seconds }) => `| ${seconds.toFixed(1)} s | ${words.replaceAll('|', '\\|')} |`),
  '',
].join('\n');
if (file !== undefined) writeFileSync(file, written);
if (seconds > LIMIT_S) {
  console.error(`It took ${seconds.toFixed(0)} s, more than ${LIMIT_S} s.`);
  process.exitCode = 1;
}
