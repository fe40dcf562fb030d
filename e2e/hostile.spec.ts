import type { Page } from '@playwright/test';
import { expect, test } from './stage';

const EVIL = '<img src=x onerror="globalThis.owned=1"><script>globalThis.owned=1</script>';
const EVIL_URL = 'javascript:globalThis.owned=1//';

/** A recording in which every text a person gets to see is an attack. */
function hostileRecording(): Buffer {
  const rows: object[] = [
    {
      kind: 'header',
      format: 'nettle-patch',
      version: '1.0',
      id: 'hostile',
      startedAt: '2026-11-20T12:40:00.000Z',
      title: EVIL,
      mode: 'everyday',
      startUp: false,
      clockStepMs: 0.1,
      refreshMs: 16.7,
      target: { title: EVIL, url: EVIL_URL, engine: EVIL, device: EVIL },
      available: ['event', EVIL],
      missing: [EVIL],
    },
    { kind: 'thread', id: 0, name: EVIL, type: 'main' },
    { kind: 'source', id: 0, url: EVIL_URL, problem: EVIL },
    {
      kind: 'function',
      id: 0,
      name: EVIL,
      source: 0,
      line: 1,
      column: 1,
      originalFile: `${EVIL}.ts`,
      originalLine: 1,
      owner: 'own',
    },
    { kind: 'text', file: `${EVIL}.ts`, text: `${EVIL}\n</script>${EVIL}` },
    {
      kind: 'handler',
      thread: 0,
      startMs: 100,
      durationMs: 480,
      type: 'event-listener',
      invoker: EVIL,
      function: 0,
    },
    {
      kind: 'input',
      thread: 0,
      startMs: 99,
      durationMs: 500,
      type: 'click',
      processingStartMs: 100,
      processingEndMs: 580,
      interaction: 1,
      target: `button “${EVIL}”`,
    },
    {
      kind: 'input',
      thread: 0,
      startMs: 900,
      durationMs: 400,
      type: 'click',
      processingStartMs: 901,
      processingEndMs: 1200,
      interaction: 2,
      target: `button “${EVIL}”`,
    },
    {
      kind: 'forced',
      thread: 0,
      startMs: 110,
      durationMs: 50,
      count: 12,
      costMs: 40,
      styleMs: 10,
      layoutMs: 30,
      read: EVIL,
      write: EVIL,
      function: 0,
      target: EVIL,
    },
    { kind: 'request', thread: 0, startMs: 50, durationMs: 80, url: EVIL_URL, initiator: EVIL },
    { kind: 'span', thread: 0, startMs: 120, durationMs: 30, type: 'measure', name: EVIL },
    { kind: 'state', thread: 0, startMs: 10, type: 'route', value: EVIL_URL },
    { kind: 'drop', startMs: 5, count: 0, reason: EVIL },
    { kind: 'end', startMs: 1500, reason: EVIL },
  ];
  return Buffer.from(rows.map((row) => `${JSON.stringify(row)}\n`).join(''));
}

const owned = (tool: Page) => tool.evaluate(() => (globalThis as { owned?: number }).owned);

test('a recording whose every text is an attack is shown as text in every view, and runs nothing', async ({
  stage,
}) => {
  const { tool } = stage;
  const refused: string[] = [];
  tool.on('console', (message) => {
    if (/Content Security Policy/i.test(message.text())) refused.push(message.text());
  });
  await tool
    .getByLabel('Recording file')
    .setInputFiles({ name: 'hostile.nettle.jsonl', mimeType: 'text/plain', buffer: hostileRecording() });
  await tool.waitForURL(/\/stings\/hostile/);
  await expect(tool.locator('np-because')).toBeVisible();
  await expect(tool.getByRole('heading', { level: 1 })).toContainText('<script>');
  for (const view of ['Timeline', 'Calls', 'Source']) {
    await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: view }).click();
    await tool.waitForTimeout(900);
  }
  await tool.keyboard.press('/');
  await tool
    .getByRole('dialog')
    .getByRole('combobox')
    .or(tool.getByRole('dialog').getByRole('textbox'))
    .first()
    .fill('img');
  await tool.waitForTimeout(500);
  await tool.keyboard.press('Escape');
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await expect(tool.locator('.card')).toContainText('<script>');
  await tool.goto(`${new URL(tool.url()).origin}/compare?before=hostile&after=hostile`);
  await expect(tool.locator('np-anatomy-pair')).toBeVisible({ timeout: 30_000 });
  expect(await owned(tool)).toBeUndefined();
  expect(refused).toEqual([]);
  for (const href of await tool
    .locator('a[href]')
    .evaluateAll((links) => links.map((link) => (link as HTMLAnchorElement).href)))
    expect(href).not.toMatch(/^javascript:/);

  const download = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Report' }).click();
  await tool.getByRole('menuitem', { name: 'Save page' }).click();
  const page = await stage.context.newPage();
  await page.goto(`file://${await (await download).path()}`).catch(() => undefined);
  expect(await owned(page)).toBeUndefined();
});

test('a recorded page reaches neither the interface nor what it keeps', async ({ stage }) => {
  const { running } = stage;
  const desk = await stage.openDesk();
  const { interfaceOrigin } = running;
  const tried = await desk.evaluate(async (origin) => {
    const results: Record<string, string> = {};
    const tell = async (name: string, work: () => Promise<string>) => {
      results[name] = await work().catch((error: Error) => `refused: ${error.name}`);
    };
    await tell('read', async () => (await fetch(`${origin}/`)).text());
    await tell('settings', async () =>
      (await fetch(`${origin}/api/settings`, { headers: { authorization: 'Bearer x' } })).text(),
    );
    await tell(
      'phone',
      async () =>
        `${(await fetch(`${origin}/api/phone`, { method: 'POST', mode: 'no-cors', body: '{}' })).type}`,
    );
    await tell(
      'socket',
      () =>
        new Promise((resolve) => {
          const socket = new WebSocket(`${origin.replace('http', 'ws')}/relay`, ['nettle-patch', 'guess']);
          socket.onopen = () => resolve('open');
          socket.onclose = ({ code }) => resolve(`refused: ${code}`);
        }),
    );
    await tell(
      'frame',
      () =>
        new Promise((resolve) => {
          const frame = document.createElement('iframe');
          frame.src = origin;
          frame.onload = () => {
            try {
              resolve(
                frame.contentDocument?.body.textContent?.includes('Nettle') ? 'read' : 'refused: empty',
              );
            } catch {
              resolve('refused: other origin');
            }
          };
          document.body.append(frame);
        }),
    );
    results['kept'] = (await indexedDB.databases()).map(({ name }) => name).join();
    return results;
  }, interfaceOrigin);
  for (const name of ['read', 'settings', 'phone', 'socket', 'frame'])
    expect(tried[name], name).toMatch(/^refused/);
  expect(tried['kept']).not.toContain('nettle-patch');
  await stage.tool.reload();
  await expect(stage.tool.getByText('Deckhand 3')).toHaveCount(0);
});
