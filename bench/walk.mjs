/**
 * A random walk: an app that answers anything is used at random, by itself and through the server, in every mode, isolated
 * and not, recorded and not. The server must live, the app's own errors and what it did be the same, and memory stay flat.
 * `npm run bench -- walk [--minutes 20] [--seed 1] [--json]`
 */
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { isDeepStrictEqual } from 'node:util';
import { chromium } from '@playwright/test';
import fc from 'fast-check';
import { RecordingClient } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { createWeatherApp } from './lib/weather-app.mjs';

const minutes = Number(valueOf('--minutes', '20'));
const seed = Number(valueOf('--seed', String(Date.now() % 2 ** 31)));
/** Walks after which memory is looked at, once all code is warm. */
const WARM_WALKS = 10;
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const app = await createWeatherApp();
const target = app.origin;
const server = fork(new URL('lib/served.mjs', import.meta.url), [target], { execArgv: ['--expose-gc'] });
const [running] = await once(server, 'message');
let isUp = true;
server.once('exit', () => (isUp = false));
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
const client = await RecordingClient.connect(running);

async function set(settings) {
  const answer = await fetch(`${running.interfaceOrigin}/api/settings`, {
    method: 'PUT',
    headers: { authorization: `Bearer ${running.secret}`, 'content-type': 'application/json' },
    body: JSON.stringify({ mode: 'everyday', isolate: false, leaveOut: [], steps: 'places', ...settings }),
  });
  if (!answer.ok) throw new Error(`settings: ${answer.status} ${await answer.text()}`);
}

async function memory() {
  server.send('memory');
  const [told] = await once(server, 'message');
  return told.heap;
}

const act = fc.oneof(
  { weight: 6, arbitrary: fc.record({ do: fc.constant('visit'), page: fc.nat(100_000) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('mode'),
      mode: fc.constantFrom('everyday', 'fine', 'exact'),
      isolate: fc.boolean(),
    }),
  },
  { weight: 5, arbitrary: fc.constant({ do: 'record' }) },
  { weight: 1, arbitrary: fc.constant({ do: 'stop' }) },
  {
    weight: 5,
    arbitrary: fc.constantFrom({ do: 'click' }, { do: 'key' }, { do: 'reload' }, { do: 'scroll' }),
  },
);
const walks = fc.array(act, { minLength: 2, maxLength: 9 });

/** The messages of errors, without what an engine puts before them, and without the policy it quotes, which lets us in. */
const plain = (message) =>
  message
    .replaceAll(/localhost:\d+/g, 'localhost')
    .replace(/^Uncaught /, '')
    .replace(/(is not an allowed source of script: ).*/s, '$1');

/** What the page has noted, where it can be asked; one that never comes up never answers. */
const logOf = (page) => page.evaluate(() => globalThis.log).catch(() => undefined);

/** Goes a walk at an origin. @returns what came of each step */
async function go(walk, origin, record) {
  const context = await browser.newContext({ baseURL: origin });
  const page = await context.newPage();
  const seen = [];
  let errors = [];
  // Of a page that broke off on its way nobody can say how much of it is there.
  let isBroken = false;
  page.on('pageerror', (error) => errors.push(plain(error.message)));
  try {
    for (const step of walk) {
      let failed = false;
      if (step.do === 'visit') {
        isBroken = false;
        await page.goto(`/page/${step.page}`, { timeout: 4000 }).catch(() => (failed = true));
      } else if (step.do === 'reload') await page.reload({ timeout: 4000 }).catch(() => (failed = true));
      else if (step.do === 'click') await page.click('#go', { timeout: 300 }).catch(() => undefined);
      else if (step.do === 'key') await page.press('#text', 'h', { timeout: 300 }).catch(() => undefined);
      else if (step.do === 'scroll') await page.mouse.wheel(0, 100);
      else await record(step);
      isBroken ||= failed;
      await pause(150);
      const log = isBroken ? undefined : await Promise.race([logOf(page), pause(3000)]);
      seen.push({
        step,
        log: log === undefined ? 'none' : [...log].map(String).sort(),
        errors: isBroken ? [] : errors.sort(),
      });
      errors = [];
    }
  } finally {
    await context.close();
  }
  return seen;
}

let recordings = 0;
async function recordStep({ do: what, ...settings }) {
  if (what === 'mode') return set(settings);
  const joined = client.target().catch(() => undefined);
  const listed = await Promise.race([joined, pause(1000)]);
  if (listed === undefined) return;
  // A page that is left takes its recording with it, so that its end may never come.
  const done =
    what === 'record'
      ? client.start(listed, `walk-${++recordings}`)
      : client.stop(listed, `walk-${recordings}`);
  await Promise.race([done.catch(() => undefined), pause(1500)]);
}

let walked = 0;
let steps = 0;
const heaps = [];
const beganMs = Date.now();
const outcome = await fc.check(
  fc.asyncProperty(walks, async (walk) => {
    const alone = await go(walk, target, () => undefined);
    let watched = await go(walk, running.proxyOrigin, recordStep);
    const same = () => isDeepStrictEqual(watched, alone);
    // A slow moment leaves a callback out of one of the two: what is different every time is the recorder's doing.
    for (let turn = 0; turn < 2 && !same(); turn++) watched = await go(walk, running.proxyOrigin, recordStep);
    await set({});
    if (!isUp) throw new Error('the server has ended');
    if (!same()) {
      const at = alone.findIndex((one, index) => !isDeepStrictEqual(one, watched[index]));
      throw new Error(`alone ${JSON.stringify(alone[at])}\nwatched ${JSON.stringify(watched[at])}`);
    }
    walked++;
    steps += walk.length;
    if (walked >= WARM_WALKS && walked % 5 === 0) heaps.push(await memory());
  }),
  { numRuns: 1_000_000, seed, interruptAfterTimeLimit: minutes * 60_000, endOnFailure: true },
);
const figures = {
  seed,
  minutes: (Date.now() - beganMs) / 60_000,
  walks: walked,
  steps,
  recordings,
  isUp,
  heapMb: heaps.map((bytes) => Math.round(bytes / 2 ** 20)),
  failure: outcome.failed && outcome.counterexample !== null ? String(outcome.errorInstance?.message) : null,
  counterexample: outcome.counterexample,
};
say(
  `${walked} walks of ${steps} steps in ${figures.minutes.toFixed(1)} minutes (seed ${seed}), ${recordings} recordings`,
);
say(
  `the server ${isUp ? 'lives' : 'has ended'}; its heap, after a collection, every five walks: ${figures.heapMb.join(' ')} MB`,
);
say(
  figures.failure === null
    ? 'the app’s own errors and doings were the same throughout'
    : `differs: ${JSON.stringify(figures.counterexample)}\n${figures.failure}`,
);
if (asJson) console.log(JSON.stringify(figures, null, 2));
client.close();
await browser.close();
server.kill();
app.close();
process.exitCode = figures.failure === null && isUp ? 0 : 1;
