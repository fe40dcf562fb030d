import { createHash } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { serve, type Running } from '../packages/server/dist/index.js';
import { localApp, type LocalApp } from './local-app';

const hashOf = (text: string) => `sha384-${createHash('sha384').update(text).digest('base64')}`;

const SCRIPTS: Readonly<Record<string, string>> = {
  '/kept.js': 'globalThis.fold = (name) => [name].map((part) => part.trim()).join();',
  '/added.js': 'globalThis.added = [1].map((n) => n + 1).join();',
  '/module.js': 'import { boats } from "boats"; globalThis.boats = [boats].map((n) => n * 2).join();',
  '/boats.js': 'export const boats = [21].map((n) => n).at(0);',
};

const PAGE = `<!doctype html><html><head><title>Quay</title><link rel="icon" href="data:,">
<script type="importmap">{"imports": {"boats": "/boats.js"}, "integrity": {"/boats.js": "${hashOf(SCRIPTS['/boats.js']!)}"}}</script>
<link rel="modulepreload" href="/module.js" integrity="${hashOf(SCRIPTS['/module.js']!)}">
<script src="/kept.js" integrity="${hashOf(SCRIPTS['/kept.js']!)}"></script>
<script type="module" src="/module.js" integrity="${hashOf(SCRIPTS['/module.js']!)}"></script></head><body><script>
  globalThis.add = (give) => new Promise((resolve, reject) => {
    const script = document.createElement('script');
    give(script, '${hashOf(SCRIPTS['/added.js']!)}');
    Object.assign(script, { src: '/added.js', onload: () => resolve(script.integrity + ' ' + script.getAttribute('integrity')), onerror: () => reject(new Error('blocked')) });
    document.head.append(script);
  });
</script></body></html>`;

let app: LocalApp;
let running: Running;
let asked: string[];

test.beforeEach(async () => {
  asked = [];
  app = await localApp((request, response) => {
    const { pathname } = new URL(request.url!, 'http://localhost');
    asked.push(pathname);
    const script = SCRIPTS[pathname];
    response.writeHead(200, {
      'content-type': script ? 'text/javascript' : 'text/html',
      ...(script ? { 'cache-control': 'public, max-age=31536000, immutable' } : {}),
    });
    response.end(script ?? PAGE);
  });
  running = await serve({
    target: app.origin,
    port: 0,
    proxyPort: 0,
    settings: { mode: 'everyday' },
  });
});

test.afterEach(() => {
  running.close();
  app.close();
});

async function useExactCalls(): Promise<void> {
  const settings = { mode: 'exact', isolate: false, leaveOut: [], steps: 'off' };
  const answer = await fetch(`${running.interfaceOrigin}/api/settings`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', authorization: `Bearer ${running.secret}` },
    body: JSON.stringify(settings),
  });
  expect(answer.ok, await answer.text()).toBe(true);
}

test('scripts that the browser kept for good, or knows by their hash, come rewritten and run', async ({
  browser,
}) => {
  const page = await browser.newPage();
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
  await page.goto(running.proxyOrigin);
  await page.waitForFunction('globalThis.boats');
  await page.goto(running.proxyOrigin);
  await page.waitForFunction('globalThis.boats');
  expect(asked.filter((path) => path === '/kept.js')).toHaveLength(2);

  await useExactCalls();
  await page.goto(running.proxyOrigin);
  await page.waitForFunction('globalThis.boats');
  expect(await page.evaluate('[fold(" a "), boats, typeof __np_e]')).toEqual(['a', '42', 'function']);

  const hash = hashOf(SCRIPTS['/added.js']!);
  for (const give of [
    '(script, hash) => { script.integrity = hash; }',
    "(script, hash) => script.setAttribute('integrity', hash)",
  ]) {
    expect(await page.evaluate(`add(${give})`)).toBe(`${hash} ${hash}`);
  }
  expect(await page.evaluate('added')).toBe('2');
  expect(problems).toEqual([]);
  await page.close();
});

test('a frame shows the text of functions as it was written', async ({ browser }) => {
  await useExactCalls();
  const page = await browser.newPage();
  await page.goto(running.proxyOrigin);
  await page.waitForFunction('globalThis.boats');
  const texts = await page.evaluate(() => {
    const frame = document.body.appendChild(document.createElement('iframe'));
    const { Function: other } = frame.contentWindow as unknown as { Function: FunctionConstructor };
    const { fold } = globalThis as unknown as { fold: () => void };
    const getter = Object.getOwnPropertyDescriptor(HTMLIFrameElement.prototype, 'contentWindow')!.get!;
    return [fold, other.prototype.toString, getter, HTMLScriptElement].map((one) => [
      other.prototype.toString.call(one),
      String(one),
    ]);
  });
  expect(texts[0]![0]).toBe('(name) => [name].map((part) => part.trim()).join()');
  expect(texts[1]![0]).toBe('function toString() { [native code] }');
  expect(texts[2]![0]).toBe('function get contentWindow() { [native code] }');
  for (const [other, own] of texts) expect(other).toBe(own);
  await page.close();
});
