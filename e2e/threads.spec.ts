import { gzipSync } from 'node:zlib';
import { CALL_END, packCalls, fileText } from '../packages/server/dist/index.js';
import { expect, stingList, test } from './stage';
import { choose } from './choose';

const HEADER = {
  kind: 'header',
  format: 'nettle-patch',
  version: '1.0',
  id: 'tide-in-a-worker',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'Tide in a worker',
  mode: 'exact',
  startUp: false,
  clockStepMs: 0.005,
  refreshMs: 16.67,
  target: { title: 'Boarding desk', url: 'http://localhost:4781/', engine: 'Blink 156', device: 'computer' },
  available: ['event', 'longtask', 'handlers', 'exact-calls'],
  missing: [],
};

/** One call after the other on a thread: function, from and to in milliseconds. */
function callsOn(thread: number, calls: readonly (readonly [id: number, from: number, to: number])[]) {
  const events = calls.flatMap(([id, from, to]) => [
    [from * 1000, id],
    [to * 1000, CALL_END],
  ]);
  const columns = { timesUs: events.map(([us]) => us!), functions: events.map(([, id]) => id!) };
  return { kind: 'calls', ...packCalls(thread, columns) };
}

/** A tap that is answered late on the main thread, while a worker works all the time. */
function file() {
  const rows = [
    HEADER,
    { kind: 'thread', id: 0, name: 'main thread', type: 'main' },
    { kind: 'thread', id: 1, name: 'worker: tides', type: 'worker' },
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    ...['onBoardAll', 'bendingOfPair', 'interpolateTide'].map((name, id) => ({
      kind: 'function',
      id,
      name,
      source: 0,
      line: id + 1,
      column: 1,
      owner: 'own',
    })),
    {
      kind: 'input',
      thread: 0,
      startMs: 500,
      durationMs: 420,
      type: 'click',
      interaction: 1,
      target: 'button “Board all”',
      processingStartMs: 501,
      processingEndMs: 901,
    },
    {
      kind: 'handler',
      thread: 0,
      startMs: 501,
      durationMs: 400,
      type: 'event-listener',
      invoker: 'BUTTON.onclick',
      id: 1,
      function: 0,
    },
    { kind: 'task', thread: 0, startMs: 500, durationMs: 402, source: 'longtask' },
    callsOn(0, [[0, 501, 901]]),
    callsOn(
      1,
      Array.from({ length: 20 }, (_, at) => [2, 100 * at, 100 * at + 60] as const),
    ),
    { kind: 'end', startMs: 2000, reason: 'stopped' },
  ];
  return gzipSync(fileText(rows.map((row) => JSON.stringify(row))));
}

test('the work of another thread stands beside that of the main thread, and the lens can be put on it', async ({
  stage,
}) => {
  const { tool } = stage;
  await expect(tool.getByRole('button', { name: 'Demo recording' })).toBeVisible();
  await tool
    .getByLabel('Recording file')
    .setInputFiles({ name: 'tide.nettle.jsonl.gz', mimeType: 'application/gzip', buffer: file() });
  await expect(stingList(tool)).toHaveCount(1);
  await expect(stingList(tool).first()).toContainText('Board all');
  const views = tool.getByRole('navigation', { name: 'Views' });

  await test.step('in the time view each has a lane, and what ran meanwhile is told', async () => {
    await views.getByRole('link', { name: 'Timeline' }).click();
    await expect(tool.locator('[data-lane="thread 0"]')).toContainText('Main thread');
    const lane = tool.locator('[data-lane="thread 1"]');
    await expect(lane).toContainText(/worker: tides/i);
    await tool.getByRole('radio', { name: 'Table' }).click();
    await choose(tool, 'Lane', /worker: tides/i);
    const lines = tool.getByRole('region', { name: 'Things in this lane' }).getByRole('button');
    await expect(lines.filter({ hasText: 'interpolateTide' })).toHaveCount(20);
    await lines.filter({ hasText: 'interpolateTide' }).nth(5).click();
    await expect(tool.locator('np-item-panel')).toContainText('interpolateTide');
    await expect(tool.locator('np-item-panel')).toContainText('60');
  });

  await test.step('calls are those of the thread that is chosen, and the address keeps it', async () => {
    await views.getByRole('link', { name: 'Calls' }).click();
    await expect(tool.locator('tr[data-name="onBoardAll"]')).toBeVisible();
    await expect(tool.locator('tr[data-name="interpolateTide"]')).toHaveCount(0);
    await choose(tool, 'Thread', 'worker: tides');
    await expect(tool).toHaveURL(/thread=1/);
    const tide = tool.locator('tr[data-name="interpolateTide"]');
    await expect(tide).toContainText('1,200');
    await expect(tide).toContainText('20');
    await expect(tool.locator('tr[data-name="onBoardAll"]')).toHaveCount(0);
    await tool.reload();
    await expect(tide).toContainText('1,200');
  });

  await test.step('there are no stings of a thread that nobody waits for, and the lens says why', async () => {
    await views.getByRole('link', { name: 'Stings' }).click();
    await expect(tool.locator('np-lens-bar')).toContainText('worker: tides');
    await expect(stingList(tool)).toHaveCount(0);
    await tool.getByRole('button', { name: 'Show all' }).click();
    await expect(stingList(tool)).toHaveCount(1);
  });
});
