import { startBusyApp } from './busy-app';
import { RecordingClient, serve } from '../packages/server/dist/index.js';
import { recordingOf } from './scripted';
import { expect, test } from './stage';
import { withoutEventTiming } from './without-event-timing';

test('a page at rest stays at rest while it is recorded: nobody asks for a frame', async ({ browser }) => {
  const app = await startBusyApp();
  const running = await serve({ target: app.url, port: 0, proxyPort: 0 });
  const client = await RecordingClient.connect(running);
  const page = await browser.newPage();
  await page.addInitScript(() => {
    const native = globalThis.requestAnimationFrame;
    const scope = globalThis as unknown as { asked: number };
    scope.asked = 0;
    globalThis.requestAnimationFrame = (callback) => {
      scope.asked++;
      return native(callback);
    };
  });
  await page.goto(running.proxyOrigin);
  await page.waitForTimeout(600);
  const target = await client.target();
  await client.start(target, 'at-rest');
  await page.waitForTimeout(400);
  const asked = () => page.evaluate(() => (globalThis as unknown as { asked: number }).asked);
  const before = await asked();
  await page.waitForTimeout(2500);
  expect(await asked()).toBe(before);
  await page.mouse.move(30, 30);
  await page.click('#restyle');
  await page.waitForTimeout(300);
  expect(await asked()).toBeGreaterThan(before);
  const lines = await client.stop(target, 'at-rest');
  const recording = recordingOf(lines);
  const renders = [...recording.events.render.rows()].map(({ startMs }) => startMs);
  expect(renders.filter((startMs) => startMs > 400 && startMs < 2800)).toEqual([]);
  expect(renders.length).toBeGreaterThan(0);
  client.close();
  running.close();
  app.close();
  await page.close();
});

test(
  'own listeners and the render probe agree with Event Timing within a frame',
  { tag: '@waits' },
  async ({ browser }) => {
    const app = await startBusyApp();
    const running = await serve({ target: app.url, port: 0, proxyPort: 0 });
    const client = await RecordingClient.connect(running);
    const page = await browser.newPage();
    await page.addInitScript(() => {
      const scope = globalThis as unknown as { told: Record<string, number> };
      scope.told = {};
      new PerformanceObserver((list) => {
        for (const { name, startTime, duration } of list.getEntries())
          scope.told[`${name} ${startTime}`] = duration;
      }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
    });
    await withoutEventTiming(page.context());
    await page.goto(running.proxyOrigin);
    await page.waitForTimeout(500);
    const target = await client.target();
    expect(target.available).toContain('input-listeners');
    await client.start(target, 'own');
    const buttons = ['#start', '#restyle'].flatMap((button) => Array<string>(5).fill(button));
    for (const button of buttons) {
      await page.click(button);
      await page.waitForTimeout(1300);
    }
    const told = await page.evaluate(() => (globalThis as unknown as { told: Record<string, number> }).told);
    const lines = await client.stop(target, 'own');
    const recording = recordingOf(lines);
    const clicks = [...recording.events.input.rows()].filter(({ type }) => type === 'click');
    const standard = Object.entries(told)
      .filter(([key]) => key.startsWith('click '))
      .sort((a, b) => Number(a[0].slice(6)) - Number(b[0].slice(6)))
      .map(([, durationMs]) => durationMs);
    expect(standard).toHaveLength(buttons.length);
    expect(clicks).toHaveLength(buttons.length);
    const FRAME_MS = 1000 / 60;
    const ROUNDED_TO_MS = 8;
    const differences = clicks.map(({ durationMs }, index) => standard[index]! - durationMs);
    for (const [page, ofPage] of [
      ['a light page', differences.slice(0, 5)],
      ['a page of thousands of rows', differences.slice(5)],
    ] as const) {
      const median = [...ofPage].sort((a, b) => a - b)[2]!;
      expect(Math.abs(median), `${page}: ${ofPage.join(', ')} ms`).toBeLessThan(FRAME_MS + ROUNDED_TO_MS);
    }
    client.close();
    running.close();
    app.close();
    await page.close();
  },
);
