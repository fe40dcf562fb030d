import { expect, test } from '@playwright/test';
import { DEFAULT_THRESHOLDS, findStings } from '../packages/server/dist/index.js';
import { localApp } from './local-app';
import { ENGINES, needs, recordIn, where } from './scripted';

const TIDES = `'use strict';
function interpolateTide(ms) { const from = performance.now(); while (performance.now() < from + ms) Math.sin(from); return performance.now() - from; }
self.onmessage = (event) => { const took = interpolateTide(event.data); self.postMessage([['tide', typeof this, event.ports.length], 'tide=' + took]); };
`;
/**
 * What a busy function in a worker took, by its name, as the page tells for it: a request that a worker sends is work of
 * the worker. Whatever else the machine does meanwhile is part of it.
 */
class Took {
  #ms = new Map<string, number>();

  /** Takes the request by which a function tells. @returns whether it was one */
  take(url: string): boolean {
    const told = /^\/took\?(\w+)=([\d.]+)$/.exec(url);
    if (told !== null) this.#ms.set(told[1]!, Math.max(Number(told[2]), this.#ms.get(told[1]!) ?? 0));
    return told !== null;
  }

  of(name: string): number {
    return this.#ms.get(name)!;
  }

  clear(): void {
    this.#ms.clear();
  }
}

const PAGE = `<!doctype html><title>Tides</title><link rel="icon" href="data:,"><button id="go">Go</button><output id="out"></output><script>
const worker = new Worker('/tides.js', { name: 'tides' });
const early = new Worker('/tides.js', { type: 'module' });
early.postMessage(5);
const answers = [];
worker.onmessage = early.onmessage = ({ data: [answer, took] }) => { fetch('/took?' + took); answers.push(answer.join()); out.textContent = answers.join(' '); if (answers.length === 2) out.className = 'done'; };
go.addEventListener('click', () => worker.postMessage(140));
</script>`;

for (const engine of ENGINES) {
  test(`${engine}: a worker's own work is recorded on a thread of its own, and is no sting`, async () => {
    needs(engine);
    const took = new Took();
    const app = await localApp((request, response) => {
      if (took.take(request.url!)) return void response.end();
      const isScript = request.url === '/tides.js';
      response
        .writeHead(200, { 'content-type': isScript ? 'text/javascript' : 'text/html' })
        .end(isScript ? TIDES : PAGE);
    });
    const { url } = app;
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
    const within = Math.max(2.8, recording.header.clockStepMs);
    expect(took.of('tide')).toBeGreaterThanOrEqual(140);
    expect(Math.abs(tide.lengthMs - took.of('tide'))).toBeLessThanOrEqual(within);
    const click = [...recording.events.input.rows()].find(
      ({ type }) => type === 'click' || type === 'pointerup',
    )!;
    expect(tide.startMs).toBeGreaterThan(click.startMs - 2 * recording.header.clockStepMs);
    expect(tide.startMs).toBeLessThan(recording.range.endMs - tide.lengthMs);
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
  });
}

const OTHERS_PAGE = `<!doctype html><title>Tides</title><link rel="icon" href="data:,"><button id="go">Go</button><output id="out"></output><script>
const answers = new Set();
const answered = ({ data: [answer, took] }) => { fetch('/took?' + took); answers.add(answer.join()); out.textContent = [...answers].join(' '); if (answers.size === 3) out.className = 'done'; };
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
    function clockOfQuay(ms) { const from = performance.now(); while (performance.now() < from + ms) Math.sin(from); return performance.now() - from; }
    self.onconnect = ({ ports: [port] }) => { port.onmessage = ({ data }) => { const took = clockOfQuay(data); port.postMessage([['shared', typeof this], 'clock=' + took]); }; };`,
  '/service.js': `'use strict';
    function keepTimetable(ms) { const from = performance.now(); while (performance.now() < from + ms) Math.sin(from); return performance.now() - from; }
    self.addEventListener('install', () => self.skipWaiting());
    self.addEventListener('message', ({ data, source }) => { const took = keepTimetable(data); source.postMessage([['service', typeof this], 'timetable=' + took]); });`,
};

for (const engine of ENGINES) {
  test(`${engine}: workers from blobs, shared workers and service workers are recorded too`, async () => {
    needs(engine);
    const took = new Took();
    const app = await localApp((request, response) => {
      if (took.take(request.url!)) return void response.end();
      const script = OTHERS[request.url!];
      response
        .writeHead(200, { 'content-type': script === undefined ? 'text/html' : 'text/javascript' })
        .end(script ?? OTHERS_PAGE);
    });
    const { url } = app;
    const steps = [
      { do: 'wait', ms: 1000 },
      { do: 'click', on: '#go' },
      { do: 'wait-for', on: '#out.done' },
      { do: 'wait', ms: 300 },
    ];
    for (const mode of ['everyday', 'exact'] as const) {
      took.clear();
      const recording = await recordIn(engine, url, mode, steps);
      const longestOf = (kind: string) => {
        const thread = [...recording.threads.values()].find(({ name }) => name.startsWith(kind))?.id;
        const tasks = [...recording.events.task.rows()].filter((row) => row.thread === thread);
        return Math.max(0, ...tasks.map(({ durationMs }) => durationMs));
      };
      const longest = ['worker: from a blob', 'shared worker: quay clock', 'service worker: service.js'].map(
        longestOf,
      );
      for (const [at, name] of ['tide', 'clock', 'timetable'].entries()) {
        const said = `${mode}, ${name}: ${longest[at]} ms, took ${took.of(name)} ms`;
        expect(took.of(name), said).toBeGreaterThanOrEqual(110);
        expect(longest[at], said).toBeGreaterThan(took.of(name) - 4);
        expect(longest[at], said).toBeLessThan(took.of(name) + 40);
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
  });
}
