import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { serve } from '../packages/server/dist/index.js';
import { localApp } from './local-app';
import { expect, test } from './stage';

const FUNCTIONS = 60_000;

/** A script of some ten megabytes that nobody has rewritten before. */
function largeScript(): string {
  const run = randomUUID();
  const piece = (at: number) =>
    `function moor${at}(boats) { const ropes = []; for (const boat of boats) ropes.push(boat.name + '${run}' + ${at}); return ropes.map((rope) => rope.length); }\n`;
  const begin =
    'globalThis.atBegin = { sheets: document.adoptedStyleSheets.length, sign: getComputedStyle(document.documentElement, "::before").content };\n';
  return (
    begin + Array.from({ length: FUNCTIONS }, (_, at) => piece(at)).join('') + 'globalThis.moored = true;'
  );
}

const sign = (page: Page) =>
  page.evaluate(() => getComputedStyle(document.documentElement, '::before').content);

test('a page says that it waits for a large script, and how far that is, until it is there', async ({
  browser,
}) => {
  const script = largeScript();
  const app = await localApp((request, response) => {
    const isScript = request.url === '/harbour.js';
    response.writeHead(200, {
      'content-type': isScript ? 'text/javascript' : 'text/html',
      'content-security-policy': "default-src 'none'; script-src 'self'",
    });
    if (isScript) response.end(script);
    else
      response.end(
        '<!doctype html><title>Harbour</title><h1>Harbour</h1><script src="/harbour.js"></script>',
      );
  });
  const running = await serve({ target: app.origin, port: 0, proxyPort: 0, settings: { mode: 'exact' } });
  const page = await browser.newPage();
  const refused: string[] = [];
  page.on('console', (message) => refused.push(message.text()));
  const loaded = page.goto(running.proxyOrigin, { waitUntil: 'load' });
  await expect
    .poll(() => sign(page).catch(() => ''), { timeout: 20_000 })
    .toMatch(/harbour\.js, \d+\.\d MB: (reading|rewriting|checking), step \d of 3/);
  expect(await page.evaluate(() => document.documentElement.children.length)).toBe(2);
  await loaded;
  expect(await page.evaluate('atBegin')).toEqual({ sheets: 0, sign: 'none' });
  expect(await page.evaluate('moored')).toBe(true);
  expect(await sign(page)).toBe('none');
  expect(refused.filter((text) => /policy/i.test(text))).toEqual([]);
  await page.close();
  running.close();
  app.close();
});
