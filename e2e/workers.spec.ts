import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from '@playwright/test';
import { DEFAULT_THRESHOLDS, findStings } from '../packages/server/dist/index.js';
import { ENGINES, needs, recordIn, where } from './scripted';

const TIDES = `'use strict';
function interpolateTide(ms) { const until = performance.now() + ms; while (performance.now() < until) Math.sin(until); }
self.onmessage = (event) => { interpolateTide(event.data); self.postMessage(['tide', typeof this, event.ports.length]); };
`;
const PAGE = `<!doctype html><title>Tides</title><link rel="icon" href="data:,"><button id="go">Go</button><output id="out"></output><script>
const worker = new Worker('/tides.js', { name: 'tides' });
const early = new Worker('/tides.js', { type: 'module' });
early.postMessage(5);
const answers = [];
worker.onmessage = early.onmessage = (event) => { answers.push(event.data.join()); out.textContent = answers.join(' '); if (answers.length === 2) out.className = 'done'; };
go.addEventListener('click', () => worker.postMessage(140));
</script>`;

for (const engine of ENGINES) {
  test(`${engine}: a worker's own work is recorded on a thread of its own, and is no sting`, async () => {
    needs(engine);
    const app = createServer((request, response) => {
      const isScript = request.url === '/tides.js';
      response
        .writeHead(200, { 'content-type': isScript ? 'text/javascript' : 'text/html' })
        .end(isScript ? TIDES : PAGE);
    });
    await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
    const url = `http://localhost:${(app.address() as AddressInfo).port}/`;
    const steps = [
      { do: 'wait', ms: 500 },
      { do: 'click', on: '#go' },
      { do: 'wait-for', on: '#out.done' },
      { do: 'wait', ms: 300 },
    ];
    const recording = await recordIn(engine, url, 'exact', steps);
    const threads = [...recording.threads.values()].filter(({ name }) => name === 'worker: tides');
    // The worker that was asked early may go by the same name.
    const tides = threads.flatMap((thread) => {
      const calls = recording.calls.get(thread.id)!;
      return Array.from(calls.startsUs, (startUs, at) => ({
        thread,
        name: where(recording, recording.stacks.functionOf(calls.stacks[at]!)).split(' ')[0],
        lengthMs: (calls.endsUs[at]! - startUs) / 1000,
        startMs: startUs / 1000,
      })).filter(({ name }) => name === 'interpolateTide');
    });
    const tide = tides.reduce((a, b) => (b.lengthMs > a.lengthMs ? b : a));
    const { thread } = tide;
    expect(thread.type).toBe('worker');
    expect(Math.abs(tide.lengthMs - 140)).toBeLessThanOrEqual(Math.max(2.8, recording.header.clockStepMs));
    const click = [...recording.events.input.rows()].find(
      ({ type }) => type === 'click' || type === 'pointerup',
    )!;
    expect(tide.startMs).toBeGreaterThan(click.startMs - 2 * recording.header.clockStepMs);
    expect(tide.startMs).toBeLessThan(click.startMs + 250);
    const task = [...recording.events.task.rows()].find((row) => row.thread === thread.id)!;
    expect(task.durationMs).toBeGreaterThanOrEqual(138);
    expect(findStings(recording, DEFAULT_THRESHOLDS).filter((sting) => sting.thread === thread.id)).toEqual(
      [],
    );

    const everyday = await recordIn(engine, url, 'everyday', steps);
    expect([...everyday.threads.values()].map(({ name }) => name)).toContain('worker: tides');
    const worked = [...everyday.events.task.rows()].filter((row) => row.thread !== 0);
    expect(worked.map(({ durationMs }) => durationMs > 138)).toEqual([true]);
    app.close();
    app.closeAllConnections();
  });
}

const OTHERS_PAGE = `<!doctype html><title>Tides</title><link rel="icon" href="data:,"><button id="go">Go</button><output id="out"></output><script>
const answers = new Set();
const answered = ({ data }) => { answers.add(data.join()); out.textContent = [...answers].join(' '); if (answers.size === 3) out.className = 'done'; };
const address = URL.createObjectURL(new Blob([\`${TIDES.replaceAll('Tide', 'Blob').replaceAll("'tide'", "'blob'")}\`], { type: 'text/javascript' }));
const blob = new Worker(address, { name: 'from a blob' });
URL.revokeObjectURL(address);
const shared = new SharedWorker('/shared.js', 'quay clock');
blob.onmessage = shared.port.onmessage = navigator.serviceWorker.onmessage = answered;
const ready = navigator.serviceWorker.register('/service.js').then(() => navigator.serviceWorker.ready);
go.addEventListener('click', () => {
  blob.postMessage(110);
  setTimeout(() => shared.port.postMessage(120), 300);
  setTimeout(() => ready.then(({ active }) => active.postMessage(130)), 600);
});
</script>`;
const OTHERS: Record<string, string> = {
  '/shared.js': `'use strict';
    function clockOfQuay(ms) { const until = performance.now() + ms; while (performance.now() < until) Math.sin(until); }
    self.onconnect = ({ ports: [port] }) => { port.onmessage = ({ data }) => { clockOfQuay(data); port.postMessage(['shared', typeof this]); }; };`,
  '/service.js': `'use strict';
    function keepTimetable(ms) { const until = performance.now() + ms; while (performance.now() < until) Math.sin(until); }
    self.addEventListener('install', () => self.skipWaiting());
    self.addEventListener('message', ({ data, source }) => { keepTimetable(data); source.postMessage(['service', typeof this]); });`,
};

for (const engine of ENGINES) {
  test(`${engine}: workers from blobs, shared workers and service workers are recorded too`, async () => {
    needs(engine);
    const app = createServer((request, response) => {
      const script = OTHERS[request.url!];
      response
        .writeHead(200, { 'content-type': script === undefined ? 'text/html' : 'text/javascript' })
        .end(script ?? OTHERS_PAGE);
    });
    await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
    const url = `http://localhost:${(app.address() as AddressInfo).port}/`;
    const steps = [
      { do: 'wait', ms: 1000 },
      { do: 'click', on: '#go' },
      { do: 'wait-for', on: '#out.done' },
      { do: 'wait', ms: 300 },
    ];
    for (const mode of ['everyday', 'exact'] as const) {
      const recording = await recordIn(engine, url, mode, steps);
      const longestOf = (kind: string) => {
        const thread = [...recording.threads.values()].find(({ name }) => name.startsWith(kind))?.id;
        const tasks = [...recording.events.task.rows()].filter((row) => row.thread === thread);
        return Math.max(0, ...tasks.map(({ durationMs }) => durationMs));
      };
      const longest = ['worker: from a blob', 'shared worker: quay clock', 'service worker: service.js'].map(
        longestOf,
      );
      for (const [at, askedMs] of [110, 120, 130].entries()) {
        expect(longest[at], `${mode}: ${longest.join(', ')}`).toBeGreaterThan(askedMs - 4);
        expect(longest[at]).toBeLessThan(askedMs + 150);
      }
      if (mode === 'everyday') continue;
      const called = [...recording.calls.values()].flatMap((calls) =>
        Array.from(
          calls.stacks,
          (stack) => recording.functions.get(recording.stacks.functionOf(stack)!)!.name,
        ),
      );
      expect(called).toEqual(expect.arrayContaining(['interpolateBlob', 'clockOfQuay', 'keepTimetable']));
    }
    app.close();
    app.closeAllConnections();
  });
}
