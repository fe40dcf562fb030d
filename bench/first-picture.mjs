/**
 * When the interface shows its first picture, against a page of the same framework and build with a heading and a
 * button, both from the same plain server, with nothing kept from before, in turn; and what is sent until then.
 * `npm run bench -- first-picture [--rounds 15] [--json]`
 */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { createServer } from 'node:http';
import { extname, join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { listening } from '../scripts/lib/listening.mjs';
import { root } from '../scripts/lib/prepare.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { medianOf } from './lib/statistics.mjs';

const LIMIT = 1.5;
const READY = { interface: 'np-record h2', bare: 'np-root button' };
const rounds = Number(valueOf('--rounds', '15'));
const TYPES = { '.js': 'text/javascript', '.css': 'text/css', '.html': 'text/html', '.svg': 'image/svg+xml' };

const built = spawnSync('npx', ['ng', 'build', '--configuration', 'bare'], {
  cwd: join(root, 'packages/app'),
  env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  encoding: 'utf8',
});
if (built.status !== 0) throw new Error(`the bare page could not be built: ${built.stderr}`);

/** Serves a folder; what is no file is its first page. */
async function served(folder) {
  const packed = new Map();
  let sent = 0;
  const server = createServer((request, response) => {
    const asked = join(folder, new URL(request.url, 'http://localhost').pathname);
    const file = existsSync(asked) && statSync(asked).isFile() ? asked : join(folder, 'index.html');
    if (!packed.has(file)) packed.set(file, gzipSync(readFileSync(file)));
    sent += packed.get(file).length;
    const type = TYPES[extname(file)] ?? 'application/octet-stream';
    response.writeHead(200, { 'content-type': type, 'content-encoding': 'gzip' }).end(packed.get(file));
  });
  return {
    ...(await listening(server)),
    taken: () => [sent, (sent = 0)][0],
  };
}

/**
 * @param ready selector of what is there once something can be done
 * @returns milliseconds until there was something to see, and to do, and kilobytes sent until then
 */
async function firstPicture(browser, app, ready) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  app.taken();
  await page.goto(app.url);
  const readyMs = await page.evaluate(
    (selector) =>
      new Promise((resolve) => {
        const look = () => {
          if (document.querySelector(selector) === null) requestAnimationFrame(look);
          else resolve(performance.now());
        };
        look();
      }),
    ready,
  );
  const kilobytes = app.taken() / 1000;
  const [{ startTime: ms }] = await page.evaluate(() =>
    performance.getEntriesByName('first-contentful-paint').map((entry) => entry.toJSON()),
  );
  await context.close();
  return { ms, readyMs, kilobytes };
}

const pages = {
  interface: await served(join(root, 'packages/app/dist/browser')),
  bare: await served(join(root, 'test-results/bare/browser')),
};
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
const found = { interface: [], bare: [] };
try {
  for (const [name, page] of Object.entries(pages)) await firstPicture(browser, page, READY[name]);
  for (let round = 0; round < rounds; round++) {
    for (const [name, page] of Object.entries(pages))
      found[name].push(await firstPicture(browser, page, READY[name]));
  }
} finally {
  await browser.close();
  for (const page of Object.values(pages)) page.close();
}
const [own, bare] = ['interface', 'bare'].map((name) => medianOf(found[name].map(({ ms }) => ms)));
const [ownReady, bareReady] = ['interface', 'bare'].map((name) =>
  medianOf(found[name].map(({ readyMs }) => readyMs)),
);
const result = {
  rounds,
  interfaceMs: own,
  bareMs: bare,
  ratio: own / bare,
  limit: LIMIT,
  interfaceReadyMs: ownReady,
  bareReadyMs: bareReady,
  readyRatio: ownReady / bareReady,
  interfaceKilobytes: medianOf(found.interface.map(({ kilobytes }) => kilobytes)),
  bareKilobytes: medianOf(found.bare.map(({ kilobytes }) => kilobytes)),
};
if (asJson) console.log(JSON.stringify(result, undefined, 2));
else {
  say(
    `First picture of the interface: ${own.toFixed(0)} ms, of a bare page ${bare.toFixed(0)} ms (medians of ${rounds}).`,
  );
  say(
    `The view is there after ${ownReady.toFixed(0)} ms, that of the bare page after ${bareReady.toFixed(0)} ms: ${result.readyRatio.toFixed(2)} times.`,
  );
  say(
    `Ratio ${result.ratio.toFixed(2)}, limit ${LIMIT}. Sent until the view is there: ${result.interfaceKilobytes.toFixed(0)} kB and ${result.bareKilobytes.toFixed(0)} kB (gzip).`,
  );
}
process.exitCode = result.ratio <= LIMIT ? 0 : 1;
