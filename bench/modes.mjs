/**
 * What each mode costs in each engine: handlers of several kinds take their time themselves, in turn without the recorder,
 * in everyday mode, in fine mode (in an ordinary page, in an isolated one, and with a function looked at closer that is not
 * called) and with exact calls.
 * `npm run bench -- modes [--rounds 5] [--browsers chromium,firefox,webkit] [--modes none,everyday,fine,isolated,closer,exact] [--json]`
 */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { json } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';
import { RecordingClient, openLocalBrowser, runSteps, serve } from '../packages/server/dist/index.js';
import { browsersHere } from './lib/browsers.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { medianOf, ratioOf } from './lib/statistics.mjs';

const rounds = Number(valueOf('--rounds', '5'));
const browsers = browsersHere();
const modes = valueOf('--modes', 'none,everyday,fine,isolated,closer,exact').split(',');
const SETTINGS = {
  everyday: { mode: 'everyday' },
  fine: { mode: 'fine' },
  isolated: { mode: 'fine', isolate: true },
  closer: { mode: 'fine', closer: 'modes.js:1' },
  exact: { mode: 'exact' },
};
/** At most so many times the time without the recorder: of what calls tiny functions very often, and of the others. */
const TARGETS = { fine: [3, 1.1], isolated: [2, 1.1] };
const WORST = 'ten lines, two million times';
const TOOK_LIMIT_MS = 120_000;

const page = (name) => readFileSync(fileURLToPath(new URL(`pages/${name}`, import.meta.url)));
const files = {
  '/modes.js': page('modes.js'),
  '/vue.js': readFileSync(
    fileURLToPath(new URL('../node_modules/vue/dist/vue.runtime.global.prod.js', import.meta.url)),
  ),
};
let tell = () => undefined;
const app = createServer(async (request, answer) => {
  if (request.url === '/took') {
    tell(await json(request));
    answer.end();
  } else if (files[request.url] !== undefined)
    answer.setHeader('content-type', 'text/javascript').end(files[request.url]);
  else
    answer
      .setHeader('content-type', 'text/html')
      .end(
        '<!doctype html><meta charset="utf-8"><title>Modes</title><link rel="icon" href="data:,"><button id="run">Run</button><div id="list"></div><script src="/vue.js"></script><script src="/modes.js"></script>',
      );
});
await new Promise((resolve) => app.listen(0, '127.0.0.1', resolve));
const target = `http://localhost:${app.address().port}`;

async function once(name, mode) {
  const running =
    mode === 'none'
      ? undefined
      : await serve({ target, port: 0, proxyPort: 0, settings: { ...SETTINGS[mode], isModeChosen: true } });
  const browser = await openLocalBrowser(name);
  let client;
  try {
    const took = new Promise((resolve, reject) => {
      tell = resolve;
      setTimeout(() => reject(new Error('nothing was told in time')), TOOK_LIMIT_MS).unref();
    });
    const origin = running?.proxyOrigin ?? target;
    await browser.navigate(`${origin}/`);
    client = running && (await RecordingClient.connect(running));
    const joined = await client?.target();
    await client?.start(joined, 'modes');
    const steps = [
      { do: 'wait-for', on: '#run' },
      { do: 'wait', ms: 500 },
      { do: 'click', on: '#run' },
    ];
    await runSteps(browser, steps, (address) => new URL(address, origin).href);
    const ms = await took;
    const lines = (await client?.stop(joined, 'modes')) ?? [];
    return {
      ms,
      bytes: lines.reduce((sum, line) => sum + line.length, 0),
      isolated: lines[0]?.includes('"isolated":true'),
    };
  } finally {
    await browser.close();
    client?.close();
    running?.close();
  }
}

const figures = [];
try {
  for (const name of browsers) {
    const results = Object.fromEntries(modes.map((mode) => [mode, []]));
    for (let round = 0; round < rounds; round++) {
      for (const mode of modes) {
        try {
          const result = await once(name, mode);
          if (mode !== 'isolated' || result.isolated) results[mode].push(result);
        } catch (error) {
          say(`${name}, ${mode}: a round is left out: ${error.message}`);
        }
      }
    }
    const whole = results.none;
    for (const handler of Object.keys(whole[0].ms)) {
      say(`${name}, ${handler}: ${medianOf(whole.map(({ ms }) => ms[handler])).toFixed(1)} ms without`);
      for (const mode of modes.slice(1)) {
        const pairs = results[mode].map(({ ms }, at) => [ms[handler], (whole[at] ?? whole[0]).ms[handler]]);
        if (pairs.length === 0) continue;
        const compared = ratioOf(pairs);
        const target = TARGETS[mode]?.[handler === WORST ? 0 : 1];
        figures.push({ browser: name, handler, mode, ...compared, target });
        const { ratio, low, high } = compared;
        say(
          `  ${mode.padEnd(9)} × ${ratio.toFixed(2)} (${low.toFixed(2)} to ${high.toFixed(2)})${target === undefined ? '' : `, target × ${target}`}`,
        );
      }
    }
  }
} finally {
  app.close();
  app.closeAllConnections();
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
