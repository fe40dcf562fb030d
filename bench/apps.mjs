/**
 * The detectors and their sentences on six kinds of app, built from general-purpose frameworks and libraries, each with
 * its faults and in a quiet version that has none. Prints what was found, by kind, and the sentences to read aloud.
 * `npm run bench -- apps [--apps editor,grid] [--browsers chromium] [--mode everyday|exact] [--stings 6] [--out FOLDER] [--json]`
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import {
  DEFAULT_THRESHOLDS,
  explainReport,
  fileText,
  readRecording,
  recordScript,
} from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { appNames, createAppServer } from './lib/app-server.mjs';
import { browsersHere } from './lib/browsers.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const apps = valueOf('--apps', appNames().join(',')).split(',');
const browsers = browsersHere('chromium');
const mode = valueOf('--mode', 'everyday');
const most = Number(valueOf('--stings', '6'));
const out = valueOf('--out');

const wait = (ms) => ({ do: 'wait', ms });
const click = (on) => ({ do: 'click', on });
const keys = (on, text) => [
  click(on),
  wait(600),
  ...[...text].flatMap((key) => [{ do: 'key', key }, wait(350)]),
];
const STEPS = {
  editor: [
    ...keys('.cm-content', 'the ramp'),
    wait(500),
    { do: 'scroll', on: '.cm-scroller', by: { x: 0, y: 3000 } },
    wait(500),
  ],
  grid: [...keys('#search', 'ness'), click('#fare'), wait(1500), click('#name'), wait(1500)],
  map: [
    { do: 'drag', on: '#map', by: { x: -300, y: 120 }, moves: 30, everyMs: 20 },
    wait(600),
    click('#sail'),
    wait(1200),
    { do: 'scroll', on: '#map', by: { x: 0, y: -300 } },
    wait(1500),
    click('#sail'),
    wait(1200),
  ],
  game: [wait(1500), click('#tilt'), wait(1200), click('#tilt'), wait(1200), click('#tilt'), wait(1500)],
  // The controls are in a shadow root, where keys reach them.
  video: [
    { do: 'key', key: 'Tab' },
    { do: 'key', key: 'Enter' },
    wait(4000),
    { do: 'key', key: 'Enter' },
    wait(500),
  ],
  chat: [
    ...keys('#draft', 'ramp'),
    { do: 'key', key: 'Enter' },
    wait(1000),
    ...['Bridge', 'Galley', 'Quay', 'Bridge', 'Galley', 'Quay'].flatMap((room) => [
      click(`#${room}`),
      wait(1800),
    ]),
  ],
};
const VERSIONS = { faulty: '', quiet: '?quiet' };
/** A game that draws every second frame only has a cadence, and no late frames. */
const MORE = { game: { 'quiet at half the frames': '?quiet&half' } };

/** A film of a few seconds, made by the browser itself. */
async function makeFilm(url) {
  const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
  const page = await browser.newPage();
  await page.goto(`${url}none`);
  await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    canvas.width = 640;
    canvas.height = 360;
    const pen = canvas.getContext('2d');
    const recorder = new MediaRecorder(canvas.captureStream(25));
    const parts = [];
    recorder.ondataavailable = ({ data }) => parts.push(data);
    recorder.start();
    for (let at = 0; at < 75; at++) {
      pen.fillStyle = `hsl(${at * 5} 50% 50%)`;
      pen.fillRect(0, 0, 640, 360);
      await new Promise((resolve) => setTimeout(resolve, 40));
    }
    const stopped = new Promise((resolve) => (recorder.onstop = resolve));
    recorder.stop();
    await stopped;
    await fetch('/crossing.webm', { method: 'PUT', body: new Blob(parts) });
  });
  await browser.close();
}

const server = await createAppServer();
const base = server.url;
const figures = [];
try {
  if (apps.includes('video')) await makeFilm(base);
  for (const browser of browsers) {
    for (const app of apps) {
      for (const [version, query] of Object.entries({ ...VERSIONS, ...MORE[app] })) {
        const url = new URL(`${app}${query}`, base);
        const recorded = await recordScript({
          url,
          steps: STEPS[app],
          settings: { mode },
          browser,
          repeat: 1,
        });
        if (recorded.failure !== undefined) throw recorded.failure;
        const file = Buffer.from(fileText(recorded.lines));
        if (out !== undefined) {
          mkdirSync(out, { recursive: true });
          writeFileSync(join(out, `${[app, version, browser, mode].join('-')}.nettle.jsonl`), file);
        }
        const { recording } = readRecording([file]);
        const { stings } = explainReport(recording, DEFAULT_THRESHOLDS);
        const kinds = {};
        for (const { kind } of stings) kinds[kind] = (kinds[kind] ?? 0) + 1;
        figures.push({ app, version, browser: recorded.browser, mode, kinds, stings });
        const counts = Object.entries(kinds).map(([kind, count]) => `${count} ${kind}`);
        say(`\n${app}, ${version} (${recorded.browser}, ${mode}): ${counts.join(', ') || 'nothing found'}`);
        for (const { kind, label, startMs, feltMs, because } of stings.slice(0, most))
          say(`  ${kind}, ${label}, at ${startMs} ms, felt ${feltMs} ms\n    ${because}`);
      }
    }
  }
} finally {
  server.close();
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
