/**
 * Records each fault of the boarding desk, and its mended version, for the tests of the detectors: the real desk, real
 * input, a real browser. With names as arguments, only those.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { fileText, readSteps, recordScript } from '../packages/server/dist/index.js';
import { listening } from './lib/listening.mjs';

const folder = fileURLToPath(new URL('../packages/core/src/testing/recordings', import.meta.url));
const ready = [
  { do: 'wait-for', on: '[data-ready]' },
  { do: 'wait', ms: 500 },
];
const drag = (moves) => ({
  do: 'drag',
  on: '.vehicle:nth-child(60)',
  by: { x: 60, y: 20 },
  moves,
  everyMs: 60,
});
const wait = (ms) => ({ do: 'wait', ms });
const boardAll = [{ do: 'click', on: '#board-all' }, wait(1500)];

const FAULTS = {
  'manifest-search': {
    steps: [{ do: 'type', on: '#search-manifest', text: 'ha', everyMs: 1200 }, wait(1500)],
  },
  'deck-drag': { steps: [...boardAll, drag(8), wait(800)] },
  'board-all': { steps: boardAll },
  'board-all-exact': { fault: 'board-all', mode: 'exact', steps: boardAll },
  'departures-poll': { steps: [wait(13_000)] },
  ticker: { steps: [wait(4000)] },
  'tide-chart': { steps: [wait(4000)] },
  'deck-log': { steps: Array.from({ length: 9 }, () => [drag(1), wait(1600)]).flat() },
  'start-up': { steps: [wait(1500)], startUp: true },
};
const ALL = [
  'manifest-search',
  'deck-drag',
  'board-all',
  'departures-poll',
  'ticker',
  'tide-chart',
  'deck-log',
  'start-up',
];

const chosen = process.argv.slice(2);
const desk = await listening(createDeskServer());
mkdirSync(folder, { recursive: true });
for (const [name, { fault = name, mode = 'everyday', steps, startUp = false }] of Object.entries(FAULTS)) {
  if (chosen.length > 0 && !chosen.includes(name)) continue;
  for (const mended of [false, true]) {
    const query = ALL.filter((one) => mended || one !== fault).join(',');
    const { lines, failure } = await recordScript({
      url: new URL(`${desk.origin}/?mended=${query}`),
      steps: readSteps(JSON.stringify({ steps: [...ready, ...steps] })),
      settings: { mode },
      browser: 'chromium',
      repeat: 1,
      startUp,
      title: mended ? `${name}, mended` : name,
    });
    if (failure !== undefined) throw failure;
    const file = `${folder}/${name}${mended ? '-mended' : ''}.nettle.jsonl.gz`;
    const bytes = gzipSync(fileText(lines), { level: 9 });
    writeFileSync(file, bytes);
    console.log(`${lines.length} lines, ${bytes.length} bytes: ${name}${mended ? ', mended' : ''}`);
  }
}
desk.close();
