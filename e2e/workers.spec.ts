import { expect, test } from '@playwright/test';
import { DEFAULT_THRESHOLDS, findStings } from '../packages/server/dist/index.js';
import { localApp } from './local-app';
import { ENGINES, needs, recordIn, where } from './scripted';
import { inNanoseconds } from './nanoseconds';

const TIDES = `'use strict';
function interpolateTide(ms) { const from = performance.now(); while (performance.now() < from + ms) Math.sin(from); return performance.now() - from; }
self.onmessage = (event) => { const took = interpolateTide(event.data); self.postMessage([['tide', typeof this, event.ports.length], 'tide=' + took]); };
`;
/**
 * What a busy function in a worker took, by its name, as the page tells for it: a request that a worker sends is work of
 * the worker. Whatever else the machine does meanwhile is part of it.
 */
class Took {
  #ms = new Map<string, number[]>();

  /** Takes the request by which a function tells. @returns whether it was one */
  take(url: string): boolean {
    const told = /^\/took\?(\w+)=([\d.]+)$/.exec(url);
    if (told !== null) this.#ms.set(told[1]!, [...this.all(told[1]!), inNanoseconds(Number(told[2]))]);
    return told !== null;
  }

  all(name: string): readonly number[] {
    return this.#ms.get(name) ?? [];
  }

  longest(name: string): number {
    return Math.max(...this.all(name));
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
    expect(took.longest('tide')).toBeGreaterThanOrEqual(140);
    expect(inNanoseconds(Math.abs(tide.lengthMs - took.longest('tide')))).toBeLessThanOrEqual(within);
    const click = [...recording.events.input.rows()].find(
      ({ type }) => type === 'click' || type === 'pointerup',
    )!;
    expect(tide.startMs).toBeGreaterThan(click.startMs - 2 * recording.header.clockStepMs);
    expect(tide.startMs).toBeLessThan(recording.range.endMs - tide.lengthMs);
    const task = [...recording.events.task.rows()].find((row) => row.thread === thread.id)!;
    expect(inNanoseconds(task.durationMs)).toBeGreaterThanOrEqual(138);
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

/** How often each worker is asked, one after the other. */
const TIMES = 3;
const OTHERS_PAGE = `<!doctype html><title>Tides</title><link rel="icon" href="data:,"><button id="go">Go</button><output id="out"></output><script>
let answers = 0;
const answered = ({ data: [, took] }) => { fetch('/took?' + took); out.textContent = ++answers; ask(); };
const address = URL.createObjectURL(new Blob([\`${TIDES.replaceAll('Tide', 'Blob').replaceAll("'tide'", "'blob'")}\`], { type: 'text/javascript' }));
const blob = new Worker(address, { name: 'from a blob' });
URL.revokeObjectURL(address);
const shared = new SharedWorker('/shared.js', 'quay clock');
blob.onmessage = shared.port.onmessage = navigator.serviceWorker.onmessage = answered;
const ready = navigator.serviceWorker.register('/service.js').then(() => navigator.serviceWorker.ready);
const askOne = [() => blob.postMessage(110), () => shared.port.postMessage(120), () => ready.then(({ active }) => active.postMessage(130))];
const ask = () => answers < ${3 * TIMES} ? setTimeout(askOne[answers % 3], 100) : out.className = 'done';
go.addEventListener('click', ask);
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
      const tasksOf = (kind: string) => {
        const thread = [...recording.threads.values()].find(({ name }) => name.startsWith(kind))?.id;
        return [...recording.events.task.rows()].filter(
          (row) => row.thread === thread && row.durationMs > 100,
        );
      };
      for (const [kind, name] of [
        ['worker: from a blob', 'tide'],
        ['shared worker: quay clock', 'clock'],
        ['service worker: service.js', 'timetable'],
      ] as const) {
        const tookMs = took.all(name);
        const tasksMs = tasksOf(kind).map(({ durationMs }) => durationMs);
        const said = `${mode}, ${name}: ${tasksMs.join()} ms, took ${tookMs.join()} ms`;
        expect(tookMs, said).toHaveLength(TIMES);
        expect(tasksMs, said).toHaveLength(TIMES);
        const beyondMs = tasksMs.map((ms, at) => ms - tookMs[at]!);
        expect(Math.min(...tookMs), said).toBeGreaterThanOrEqual(110);
        expect(Math.min(...beyondMs), said).toBeGreaterThan(-4);
        // What the machine does after a function was left is in one of them, what recording takes in all.
        expect(Math.min(...beyondMs), said).toBeLessThan(40);
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
