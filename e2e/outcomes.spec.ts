import { expect, test } from '@playwright/test';
import {
  DEFAULT_THRESHOLDS,
  anatomyOf,
  becauseOf,
  becauseText,
  findStings,
  outcomesOf,
  type Outcome,
  type Recording,
} from '../packages/server/dist/index.js';
import { localApp, type LocalApp } from './local-app';
import { ENGINES, needs, recordIn } from './scripted';
import { inNanoseconds } from './nanoseconds';

/** Each tap has a consequence of a known kind; the page measures itself between what times the picture of it was made. */
const PAGE = `<!doctype html><title>Quay</title><link rel="icon" href="data:,">
<style>button { display: inline-block; width: 150px; height: 40px }</style>
<div>${['timers', 'row', 'together', 'aborted', 'later', 'sooner', 'worker', 'stream', 'spinner']
  .map((id) => `<button id="${id}">${id}</button>`)
  .join('')}</div>
<p id="said">nothing yet</p><p id="poll">0</p>
<script src="/quay.js"></script>`;

const SCRIPT = `
const write = (name, text) => {
  document.querySelector('#said').textContent = text ?? name + ' is there';
  requestAnimationFrame(() => {
    performance.mark('drawn ' + name);
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => performance.mark('shown ' + name);
    port2.postMessage(0);
  });
};
const ask = (ms) => fetch('/answer?ms=' + ms + '&' + Math.random());
const busy = (ms) => { const until = performance.now() + ms; while (performance.now() < until); };
const worker = new Worker('/worker.js');
const on = (id, act) => { document.querySelector('#' + id).onclick = act; };
on('timers', () => setTimeout(() => setTimeout(() => write('timers'), 400), 300));
on('row', async function inARow() {
  const first = await (await ask(300)).json();
  const second = await (await ask(first.ms + 100)).json();
  mergeOrders(second);
});
function mergeOrders() { busy(150); write('row'); }
on('together', async () => {
  await Promise.all([ask(200), ask(500)].map(async (answer) => (await answer).json()));
  write('together');
});
on('aborted', () => {
  const control = new AbortController();
  fetch('/answer?ms=5000', { signal: control.signal }).catch(() => write('aborted'));
  setTimeout(() => control.abort(), 350);
});
on('later', () => setTimeout(() => write('later'), 900));
on('sooner', () => setTimeout(() => write('sooner'), 250));
on('spinner', async () => {
  write('spinner', 'loading');
  const answer = await ask(600);
  await answer.json();
  write('spinner', 'the list');
});
on('worker', () => {
  worker.onmessage = () => write('worker');
  worker.postMessage(400);
});
on('stream', async () => {
  const reader = (await fetch('/stream?' + Math.random())).body.getReader();
  while (!(await reader.read()).done);
  write('stream');
});
if (location.search !== '?still') {
  let polls = 0;
  setInterval(() => (document.querySelector('#poll').textContent = String(++polls)), 120);
}`;

const WORKER = `onmessage = ({ data }) => setTimeout(() => postMessage('done'), data);`;

const quay = (): Promise<LocalApp> =>
  localApp((request, response) => {
    const url = new URL(request.url!, 'http://localhost');
    const js = { '/quay.js': SCRIPT, '/worker.js': WORKER }[url.pathname];
    if (js !== undefined) response.writeHead(200, { 'content-type': 'text/javascript' }).end(js);
    else if (url.pathname === '/answer') {
      const ms = Number(url.searchParams.get('ms'));
      setTimeout(
        () => response.writeHead(200, { 'content-type': 'application/json' }).end(`{"ms":${ms}}`),
        ms,
      );
    } else if (url.pathname === '/stream') {
      response.writeHead(200, { 'content-type': 'text/plain' });
      for (let piece = 1; piece <= 5; piece++)
        setTimeout(() => (piece < 5 ? response.write(`piece ${piece}`) : response.end()), piece * 100);
    } else response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE);
  });

/** More than a frame apart is another picture. */
const FRAME_MS = 17;

const outcomeAt = (recording: Recording, id: string): Outcome | undefined =>
  outcomesOf(recording).find(({ interaction }) => interaction.label.toLowerCase().includes(`“${id}”`));

/** When the page itself saw the picture of its last change being made, and then that it was made. */
function pictureMs({ events }: Recording, id: string): readonly [number, number] {
  const lastMs = (name: string) => [...events.span.rows()].findLast((row) => row.name === name)!.startMs;
  return [lastMs(`drawn ${id}`), lastMs(`shown ${id}`)];
}

function expectOutcome(recording: Recording, id: string): Outcome {
  const outcome = outcomeAt(recording, id)!;
  expect(outcome, id).toBeDefined();
  const step = Math.max(1, recording.header.clockStepMs);
  const [drawnMs, shownMs] = pictureMs(recording, id);
  expect(inNanoseconds(outcome.endMs - drawnMs), id).toBeGreaterThanOrEqual(-2 * step);
  expect(inNanoseconds(outcome.endMs - shownMs), id).toBeLessThanOrEqual(FRAME_MS + 2 * step);
  const { steps } = outcome;
  expect(steps[0]!.startMs).toBe(outcome.startMs);
  expect(steps.at(-1)!.endMs).toBe(outcome.endMs);
  for (const [at, { startMs }] of steps.slice(1).entries()) expect(startMs).toBe(steps[at]!.endMs);
  return outcome;
}

const lengthOf = ({ steps }: Outcome, name: string) =>
  steps.filter((step) => step.name === name).reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);

const tap = (id: string, ms: number) => [
  { do: 'click', on: `#${id}` },
  { do: 'wait', ms },
];

for (const engine of ENGINES) {
  for (const mode of ['everyday', 'exact'] as const) {
    test(`what a tap set going is followed to the picture: ${engine}, ${mode}`, async () => {
      needs(engine);
      const app = await quay();
      const recording = await recordIn(engine, app.url, mode, [
        ...tap('timers', 1100),
        ...tap('row', 1500),
        ...tap('together', 900),
        ...tap('aborted', 800),
        ...tap('worker', 800),
        ...tap('stream', 900),
        ...tap('spinner', 1000),
        ...tap('later', 100),
        ...tap('sooner', 1500),
      ]);
      app.close();
      expect([...recording.events.drop.rows()]).toEqual([]);
      const timers = expectOutcome(recording, 'timers');
      expect(lengthOf(timers, 'timer')).toBeGreaterThan(650);
      const row = expectOutcome(recording, 'row');
      expect(lengthOf(row, 'request')).toBeGreaterThan(650);
      expect(row.steps.filter(({ name }) => name === 'request')).toHaveLength(2);
      const together = expectOutcome(recording, 'together');
      expect(lengthOf(together, 'request')).toBeGreaterThan(450);
      expect(lengthOf(together, 'request')).toBeLessThan(650);
      expectOutcome(recording, 'aborted');
      const spinner = expectOutcome(recording, 'spinner');
      expect(spinner.interaction.feltMs).toBeLessThan(300);
      const worker = expectOutcome(recording, 'worker');
      expect(lengthOf(worker, 'timer') + lengthOf(worker, 'worker')).toBeGreaterThan(350);
      const stream = expectOutcome(recording, 'stream');
      expect(lengthOf(stream, 'request')).toBeGreaterThan(450);
      // Two taps whose consequences cross, with a poll between: each has its own.
      const [later, sooner] = [expectOutcome(recording, 'later'), expectOutcome(recording, 'sooner')];
      expect(later.endMs).toBeGreaterThan(sooner.endMs);

      const slow = findStings(recording, { ...DEFAULT_THRESHOLDS, outcomeMs: 800 }).filter(
        ({ kind }) => kind === 'slow-outcome',
      );
      const sting = slow.find(({ label }) => label.toLowerCase().includes('row'))!;
      const anatomy = anatomyOf(recording, sting);
      const sum = anatomy.phases.reduce((total, { startMs, endMs }) => total + endMs - startMs, 0);
      expect(sum).toBeCloseTo(sting.feltMs, 3);
      const words = becauseText(becauseOf(recording, anatomy));
      expect(words).toMatch(/The last change on the screen, in .*, came [\d,]+ ms after the tap on .*“Row”/);
      expect(words).toMatch(/[\d,]+ ms for answer/);
      if (mode === 'exact') expect(words).toMatch(/1[4-9]\d ms in (busy|mergeOrders)/);
    });
  }
}
