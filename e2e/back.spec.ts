import { chromium, expect, test } from '@playwright/test';
import { RecordingClient, openLocalBrowser, serve } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { localApp } from './local-app';
import { needs } from './scripted';

const page = (
  path: string,
) => `<!doctype html><html><head><title>Quay</title><link rel="icon" href="data:,"></head><body>
<a id="next" href="/next">Next</a> ${path}<script>
  globalThis.shown = []; globalThis.born = Math.random();
  addEventListener('pageshow', (event) => shown.push(event.persisted));
</script></body></html>`;

async function open(pageAt: (path: string) => string) {
  const app = await localApp((request, response) =>
    response.writeHead(200, { 'content-type': 'text/html' }).end(pageAt(request.url!)),
  );
  const running = await serve({ target: app.origin, port: 0, proxyPort: 0 });
  const client = await RecordingClient.connect(running);
  const browser = await chromium.launch({
    executablePath: chromiumPath,
    args: chromiumFlags,
    ignoreDefaultArgs: ['--disable-back-forward-cache'],
  });
  const close = async () => {
    await browser.close();
    client.close();
    running.close();
    app.close();
  };
  return { running, client, tab: await browser.newPage(), close };
}

test('a recording that is to begin with the next load is the page’s, whatever its frames load', async () => {
  const { running, client, tab, close } = await open((path) =>
    path === '/frame'
      ? '<!doctype html><title>Frame</title><p>Deck 3</p>'
      : '<!doctype html><title>Quay</title><link rel="icon" href="data:,"><body>',
  );
  await tab.goto(running.proxyOrigin);
  const target = await client.target();
  client.startWithNextLoad(target, 'armed');
  await expect
    .poll(() => tab.evaluate(() => sessionStorage.getItem('nettle-patch-next-load')))
    .toBe('["armed"]');
  await tab.evaluate(
    () =>
      new Promise((resolve) => {
        const frame = document.createElement('iframe');
        frame.onload = resolve;
        frame.src = '/frame';
        document.body.append(frame);
      }),
  );
  expect(await tab.evaluate(() => sessionStorage.getItem('nettle-patch-next-load'))).toBe('["armed"]');
  await tab.reload();
  const recorded = await client.recorded('armed');
  expect(recorded.url).toBe(`${running.proxyOrigin}/`);
  await close();
});

test('a page that is left while it is recorded comes back as it was, the recording goes on, and another can follow', async () => {
  const { running, client, tab, close } = await open(page);
  await tab.goto(running.proxyOrigin);
  const seen = () => tab.evaluate(() => (globalThis as unknown as { shown: boolean[]; born: number }).born);
  const born = await seen();
  await client.start(await client.target(), 'first');
  await tab.waitForTimeout(300);
  await tab.click('#next');
  await tab.waitForURL('**/next');
  // A page that is left before its worker has begun to send cannot send what it had.
  await expect.poll(async () => (await client.recorded('first')).url).toBe(`${running.proxyOrigin}/next`);
  await tab.waitForTimeout(300);
  // What comes back from there loads nothing, and the browser tells of no load.
  await tab.goBack({ waitUntil: 'commit', timeout: 5000 }).catch(() => undefined);
  await expect.poll(seen).toBe(born);
  expect(await tab.evaluate(() => (globalThis as unknown as { shown: boolean[] }).shown)).toEqual([
    false,
    true,
  ]);
  const goesOn = await client.recorded('first');
  await expect.poll(async () => (await client.recorded('first')).url).toBe(`${running.proxyOrigin}/`);
  await tab.click('body');
  await tab.waitForTimeout(500);
  const lines = await client.stop(goesOn, 'first');
  expect(lines.some((line) => line.includes('"pointerdown"') || line.includes('"click"'))).toBe(true);
  const routes = lines.flatMap((line) => /"type":"route","value":"([^"]+)"/.exec(line)?.[1] ?? []);
  expect(routes.map((url) => new URL(url).pathname)).toEqual(['/', '/next', '/']);
  expect(lines.some((line) => line.includes('lost on the way'))).toBe(false);

  await expect.poll(() => client.targets.every(({ recording }) => recording === null)).toBe(true);
  const again = client.targets.find(({ url }) => url === `${running.proxyOrigin}/`)!;
  await client.start(again, 'second');
  await tab.waitForTimeout(300);
  expect((await client.stop(again, 'second')).at(-1)).toContain('"stopped"');
  await close();
});

const OTHERS = (['webkit', 'firefox'] as const).flatMap((engine) =>
  (['everyday', 'exact'] as const).map((mode) => ({ engine, mode })),
);
for (const { engine, mode } of OTHERS) {
  test(`a page that is recorded in ${engine} comes back as it was: ${mode}`, async () => {
    needs(engine);
    const told: string[] = [];
    const goBack = 'addEventListener("load", () => setTimeout(() => history.back(), 300))';
    const app = await localApp((request, response) => {
      if (request.url!.startsWith('/told')) told.push(request.url!.slice('/told?'.length));
      response.writeHead(200, { 'content-type': 'text/html' }).end(`<!doctype html><title>Quay</title>
        <link rel="icon" href="data:,"><a id="next" href="/next">Next</a><script>
        addEventListener('pageshow', ({ persisted }) => fetch('/told?' + location.pathname + ' ' + persisted));
        ${request.url === '/next' ? goBack : ''}</script>`);
    });
    const running = await serve({ target: app.origin, port: 0, proxyPort: 0, settings: { mode } });
    const client = await RecordingClient.connect(running);
    const browser = await openLocalBrowser(engine);
    try {
      await browser.navigate(`${running.proxyOrigin}/`);
      await client.start(await client.target(), 'left');
      const origin = browser.originOf((await browser.find('#next'))!);
      const press = [
        { type: 'pointerMove', x: 0, y: 0, origin },
        { type: 'pointerDown', button: 0 },
        { type: 'pointerUp', button: 0 },
      ];
      await browser.perform([
        { type: 'pointer', id: 'mouse', parameters: { pointerType: 'mouse' }, actions: press },
      ]);
      await expect.poll(() => told).toEqual(['/%20false', '/next%20false', '/%20true']);
    } finally {
      await browser.close();
      client.close();
      running.close();
      app.close();
    }
  });
}
