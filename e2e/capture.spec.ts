import { expect, test } from '@playwright/test';
import type { Recording } from '../packages/server/dist/index.js';
import { BUSY_MS, startBusyApp, type BusyApp } from './busy-app';
import { contentOf, ENGINES, needs, recordIn, where } from './scripted';
import { inNanoseconds } from './nanoseconds';

let app: BusyApp;

test.beforeAll(async () => {
  app = await startBusyApp();
});
test.afterAll(() => app.close());

/** Milliseconds of the calls of one function. */
function callsOf(recording: Recording, name: string): number[] {
  const calls = recording.calls.get(0)!;
  return Array.from(calls.startsUs, (startUs, at) => ({ at, lengthMs: (calls.endsUs[at]! - startUs) / 1000 }))
    .filter(({ at }) =>
      where(recording, recording.stacks.functionOf(calls.stacks[at]!)).startsWith(`${name} `),
    )
    .map(({ lengthMs }) => lengthMs);
}

for (const engine of ENGINES) {
  test(`${engine}: known busy times are accounted for within 2 %, each with what it came from`, async () => {
    needs(engine);
    const recording = await recordIn(engine, app.url, 'exact', [
      { do: 'wait', ms: 400 },
      { do: 'click', on: '#start' },
      { do: 'wait', ms: 1600 },
    ]);
    for (const [name, askedMs] of Object.entries(BUSY_MS)) {
      const knownMs = inNanoseconds(app.took[name]!);
      expect(knownMs).toBeGreaterThanOrEqual(askedMs);
      const [lengthMs, ...others] = callsOf(recording, name);
      expect(others, name).toEqual([]);
      const within = Math.max(knownMs * 0.02, recording.header.clockStepMs);
      const offMs = inNanoseconds(Math.abs(lengthMs! - knownMs));
      expect(offMs, `${name}: ${lengthMs} ms`).toBeLessThanOrEqual(within);
    }

    const schedules = new Map([...recording.events.schedule.rows()].map((row) => [row.id, row]));
    const handlers = [...recording.events.handler.rows()].filter(({ id }) => id !== undefined);
    const clicked = handlers.find(({ invoker }) => invoker === 'BUTTON#start.onclick')!;
    const causeOf = (schedule: number | undefined): string[] => {
      const row = schedule === undefined ? undefined : schedules.get(schedule);
      const by = row && handlers.find(({ id }) => id === row.by);
      return row === undefined ? [] : [row.type, ...(by === undefined ? [] : causeOf(by.schedule))];
    };
    const chains = handlers.map((handler) => causeOf(handler.schedule).join(' of '));
    expect(chains).toContain('timer');
    expect(chains).toContain('frame of timer');
    expect(chains).toContain('request of timer');
    expect(chains).toContain('microtask of timer');
    const timer = [...schedules.values()].find(({ type, delayMs }) => type === 'timer' && delayMs === 150)!;
    expect(timer.by).toBe(clicked.id);
  });

  test(`${engine}: nothing secret is in the file of a recording`, async () => {
    needs(engine);
    const recording = await recordIn(engine, app.url, 'exact', [
      { do: 'type', on: '#user', text: 'typed-secret', everyMs: 10 },
      { do: 'type', on: '#word', text: 'word-secret', everyMs: 10 },
      { do: 'key', key: 'Enter' },
      { do: 'wait', ms: 800 },
    ]);
    expect(recording.events.request.length).toBeGreaterThan(0);
    expect([...recording.events.state.rows()].map(({ type, value }) => `${type} ${value}`).join()).toContain(
      '/home',
    );
    const all = contentOf(recording);
    expect(all.match(/[\w-]*-?secret/g) ?? []).toEqual([]);
    expect(all).not.toContain('typed');
    const texts = JSON.stringify([...recording.files]);
    expect(texts).toContain('function inPage()');
    for (const kept of ['title', 'page', 'state', 'version']) expect(texts).not.toContain(`${kept}-secret`);
  });
}

function medianOf(values: readonly number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  return (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
}

test('the cost of a frame is told in its parts, as by hand in the frames between', async () => {
  needs('chromium');
  // By key: where the mouse rests on the page, the browser has style and layout done before frame callbacks.
  const frameAndHand = ['Home', 'End', 'End', 'Home'].flatMap((key) => [
    { do: 'key', key },
    { do: 'wait', ms: 350 },
  ]);
  const times = 6;
  const recording = await recordIn('chromium', app.url, 'everyday', [
    { do: 'wait', ms: 300 },
    ...Array.from({ length: times / 2 }, () => frameAndHand).flat(),
  ]);
  const frames = [...recording.events.render.rows()].sort((a, b) => b.layoutMs - a.layoutMs).slice(0, times);
  expect(app.byHand).toHaveLength(times);
  for (const part of ['styleMs', 'layoutMs'] as const) {
    const measured = medianOf(frames.map((row) => row[part]));
    const known = medianOf(app.byHand.map((one) => one[part]));
    const said = `${part}: ${measured} measured, ${known} by hand`;
    expect(known, said).toBeGreaterThan(2);
    expect(measured, said).toBeGreaterThan(known * 0.5);
    expect(measured, said).toBeLessThan(known * 2);
  }
  expect(frames.every(({ paintMs }) => paintMs > 0)).toBe(true);
  const changed = [...recording.events.redraw.rows()].filter(({ target }) => target?.includes('Rows'));
  expect(changed).toHaveLength(2 * times);
  expect(changed.every((row) => row.attributes === 1 && row.changed && row.inView)).toBe(true);
});
