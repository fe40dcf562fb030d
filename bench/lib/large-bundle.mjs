/** How quickly large bundles get through the proxy in exact mode, and how long other requests wait meanwhile. */
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { serve } from '../../packages/server/dist/index.js';
import { say } from './options.mjs';
import { medianOf } from './statistics.mjs';

const compiler = new URL('../../node_modules/typescript/lib/', import.meta.url);
const wrapped = (name) => `(function(){${readFileSync(new URL(name, compiler), 'utf8')}})();`;
const code = wrapped('typescript.js') + wrapped('_tsc.js');
const MEGABYTES = Buffer.byteLength(code) / 1e6;
/** Nobody has rewritten any of them before. */
const bundles = Array.from({ length: 3 }, () => `${code}//${randomUUID()}`);

const PARSE = `
  const { workerData, parentPort } = require('node:worker_threads');
  import(workerData.server).then(({ parseScript }) => {
    const from = performance.now();
    parseScript(workerData.text);
    parentPort.postMessage(performance.now() - from);
  });`;

/** Seconds that the parser alone takes in a fresh thread: the limit. */
function parsing() {
  const server = new URL('../../packages/server/dist/index.js', import.meta.url).href;
  return new Promise((resolve, reject) => {
    const worker = new Worker(PARSE, {
      eval: true,
      workerData: { server, text: bundles[0] },
      resourceLimits: { stackSizeMb: 64, maxYoungGenerationSizeMb: 192 },
    });
    worker.once('message', (ms) => resolve(ms / 1000)).once('error', reject);
  });
}

async function seconds(work) {
  const from = performance.now();
  await work();
  return (performance.now() - from) / 1000;
}

const app = createServer((request, response) => {
  const number = /bundle-(\d)/.exec(request.url)?.[1];
  const type = number !== undefined ? 'text/javascript' : request.url === '/' ? 'text/html' : 'text/plain';
  response.writeHead(200, { 'content-type': type }).end(bundles[number] ?? 'Skerry Line');
});

/** Megabytes a second: one bundle alone, two at once, one that was rewritten before; and waits of others, in ms. */
export async function largeBundles() {
  const limit = await parsing();
  const folder = mkdtempSync(join(tmpdir(), 'bundles-'));
  process.env.XDG_CACHE_HOME = folder;
  await new Promise((resolve) => app.listen(0, resolve));
  const target = `http://localhost:${app.address().port}`;
  const running = await serve({ target, port: 0, proxyPort: 0, settings: { mode: 'exact' } });
  const ask = (path, destination) =>
    new Promise((resolve) => {
      get(running.proxyOrigin + path, { headers: { 'sec-fetch-dest': destination } }, (answer) =>
        answer.resume().on('end', resolve),
      );
    });
  await ask('/', 'document');
  await new Promise((resolve) => setTimeout(resolve, 500));
  const alone = MEGABYTES / (await seconds(() => ask('/bundle-0.js', 'script')));
  const waits = [];
  let going = true;
  const others = (async () => {
    while (going) {
      waits.push(1000 * (await seconds(() => ask('/notice', 'empty'))));
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  const both = () => Promise.all([ask('/bundle-1.js', 'script'), ask('/bundle-2.js', 'script')]);
  const two = (2 * MEGABYTES) / (await seconds(both));
  going = false;
  await others;
  const again = MEGABYTES / (await seconds(() => ask('/bundle-1.js', 'script')));
  await running.close();
  app.close();
  rmSync(folder, { recursive: true, force: true });
  const [median, longest] = [medianOf(waits), Math.max(...waits)];
  const parser = MEGABYTES / limit;
  say(
    `a bundle of ${MEGABYTES.toFixed(1)} MB through the proxy: ${alone.toFixed(1)} MB/s alone (the parser by itself ${parser.toFixed(1)}), two at once ${two.toFixed(1)} MB/s, known already ${again.toFixed(0)} MB/s; others waited ${median.toFixed(0)} ms meanwhile (longest ${longest.toFixed(0)})`,
  );
  return { megabytes: MEGABYTES, parser, alone, two, again, median, longest };
}
