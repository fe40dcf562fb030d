/**
 * What the recorder costs: the same interactions without it, with nothing but a mutation observer, with the recorder
 * waiting in the page, with it in everyday mode, in fine mode (in an ordinary page and in an isolated one) and with exact
 * calls, in turn. What everyday mode costs is held against
 * what the engine takes to tell of changes, and what exact mode costs against the number of calls it saw and what one
 * call costs in the same page.
 * `npm run bench -- recorder [--rounds 10] [--page desk|widgets] [--json]`
 */
import { readFileSync } from 'node:fs';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { parse as acornParse } from 'acorn';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import {
  ENTER,
  LEAVE,
  RecordingClient,
  parseScript,
  readRecording,
  rewriteScript,
  serve,
} from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { observeChanges } from './lib/observe-changes.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { medianOf, ratioOf } from './lib/statistics.mjs';
import { createWidgetServer } from './pages/widgets.mjs';

const rounds = Number(valueOf('--rounds', 10));
const onlyPage = valueOf('--page');
const MODES = ['none', 'observed', 'waiting', 'everyday', 'fine', 'isolated', 'exact'];
/** How the proxy treats the pages of each mode. */
const SETTINGS = {
  waiting: { mode: 'everyday' },
  everyday: { mode: 'everyday' },
  fine: { mode: 'fine' },
  isolated: { mode: 'fine', isolate: true },
  exact: { mode: 'exact' },
};
const PAIRS = 200_000;
const TARGETS = { everyday: 1.02, fine: 1.1, isolated: 1.1, exact: 1.5 };
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Times, in the page and without the recorder's help, from an input to the first message after its frame. */
function watchResponses() {
  const channel = new MessageChannel();
  const frame = requestAnimationFrame;
  globalThis.responses = [];
  let waiting = [];
  channel.port1.onmessage = () => {
    const now = performance.now();
    for (const { type, at } of waiting) globalThis.responses.push({ type, ms: now - at });
    waiting = [];
  };
  for (const type of ['click', 'keydown', 'pointermove']) {
    addEventListener(
      type,
      (event) => {
        if (waiting.length === 0) frame(() => channel.port2.postMessage(null));
        waiting.push({ type, at: event.timeStamp });
      },
      true,
    );
  }
}

const INTERACTIONS = {
  desk: {
    server: createDeskServer,
    query: '?mended=ticker,tide-chart,deck-log,start-up',
    steps: {
      'tap on "Board all"': ['click', (page) => page.click('#board-all'), 900],
      'key in the manifest search': ['keydown', (page) => page.locator('#search-manifest').press('h'), 1100],
      'move on the deck plan': ['pointermove', (page) => dragVehicle(page), 300],
    },
  },
  widgets: {
    server: createWidgetServer,
    query: '',
    steps: {
      'sort a table of 6,000 rows': [
        'click',
        (page) => page.click('.tabulator-col[tabulator-field=name] .tabulator-col-title'),
        900,
      ],
      'sort it by another column': [
        'click',
        (page) => page.click('.tabulator-col[tabulator-field=seat] .tabulator-col-title'),
        900,
      ],
    },
  },
};

async function dragVehicle(page) {
  const box = await page.locator('.vehicle').nth(60).boundingBox();
  await page.mouse.move(box.x + 4, box.y + 4);
  await page.mouse.down();
  await pause(100);
  await page.evaluate(() => (globalThis.responses.length = 0));
  for (let move = 1; move <= 5; move++) {
    await page.mouse.move(box.x + 4 + move * 12, box.y + 4 + move * 4);
    await pause(90);
  }
  await page.mouse.up();
}

/** Opens a page, takes the steps in it, and gives the longest response to each. */
async function once(browser, url, steps, record, ...scripts) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  for (const script of [watchResponses, ...scripts]) await page.addInitScript(script);
  const said = [];
  page.on('console', (message) => said.push(message.text()));
  page.on('pageerror', ({ message }) => said.push(message));
  page.on('requestfailed', (request) => said.push(`${request.url()}: ${request.failure()?.errorText}`));
  page.on('response', (response) => said.push(`${response.status()} ${response.url()}`));
  await page.goto(url);
  try {
    await page.waitForSelector('[data-ready]');
  } catch {
    const state = await page.evaluate('document.readyState');
    await page.close();
    throw new Error(`${url} was not ready: ${state}; ${said.join('; ')}`);
  }
  await pause(700);
  const recording = await record?.begin();
  const responses = {};
  for (const [name, [type, act, waitMs]] of Object.entries(steps)) {
    await page.evaluate((step) => {
      globalThis.responses.length = 0;
      performance.mark(step);
    }, name);
    await act(page);
    await pause(waitMs);
    const seen = await page.evaluate(() => globalThis.responses);
    const lengths = seen.filter((response) => response.type === type).map(({ ms }) => ms);
    responses[name] = type === 'pointermove' ? medianOf(lengths) : Math.max(...lengths);
  }
  const recorded = await record?.end(recording, steps);
  const pairNs = recorded === undefined ? undefined : await record.pairNs(page);
  await page.close();
  return { responses, recorded, pairNs };
}

/** Calls in the longest answer to an input of each step, each step from its mark to the next. */
function callsOfSteps(lines, steps) {
  const { recording } = readRecording([Buffer.from(`${lines.join('\n')}\n`)]);
  const calls = recording.calls.get(0);
  const marks = [...recording.events.span.rows()].filter(({ name }) => name in steps);
  const inputs = [...recording.events.input.rows()];
  const counts = marks.map(({ name, startMs }, at) => {
    const untilMs = marks[at + 1]?.startMs ?? Infinity;
    const [type] = steps[name];
    const [longest] = inputs
      .filter((input) => input.type === type && input.startMs >= startMs && input.startMs < untilMs)
      .sort((a, b) => b.durationMs - a.durationMs);
    if (longest === undefined || calls === undefined) return [name, 0];
    const endMs = longest.startMs + longest.durationMs;
    return [name, calls.firstFrom(endMs * 1000) - calls.firstFrom(longest.startMs * 1000)];
  });
  return Object.fromEntries(counts);
}

/** What the beginning and the end of one call cost while it is recorded, in this page. Nanoseconds. */
function timePairs(names) {
  const [enter, leave, pairs] = names;
  const [begin, end] = [globalThis[enter], globalThis[leave]];
  const startedAt = performance.now();
  for (let pair = 0; pair < pairs; pair++) {
    begin(0);
    end();
  }
  return ((performance.now() - startedAt) * 1e6) / pairs;
}

function recorderOf(client, isExact) {
  let startedAt = 0;
  return {
    async begin() {
      const target = await client.target();
      startedAt = Date.now();
      await client.start(target, `bench-${startedAt}`);
      await pause(300);
      return { target, id: `bench-${startedAt}` };
    },
    /** Measured in a recording of its own, which is thrown away. */
    async pairNs(page) {
      if (!isExact) return undefined;
      const target = await client.target();
      const id = `bench-pairs-${startedAt}`;
      await client.start(target, id);
      await pause(200);
      const pairNs = await page.evaluate(timePairs, [ENTER, LEAVE, PAIRS]);
      await client.stop(target, id);
      return pairNs;
    },
    async end({ target, id }, steps) {
      const lines = await client.stop(target, id);
      const seconds = (Date.now() - startedAt) / 1000;
      const bytes = lines.reduce((sum, line) => sum + line.length + 1, 0);
      const costs = lines.filter((line) => line.startsWith('{"kind":"cost"')).map((line) => JSON.parse(line));
      const [longest] = costs.sort((a, b) => b.longestMs - a.longestMs);
      return {
        rowsASecond: lines.length / seconds,
        bytesAMinute: (bytes / seconds) * 60,
        longestMs: longest.longestMs,
        longest: longest.longest,
        calls: callsOfSteps(lines, steps),
      };
    },
  };
}

async function measurePage(browser, name, { server, query, steps }) {
  const app = server();
  await new Promise((resolve) => app.listen(0, '127.0.0.1', resolve));
  const target = `http://localhost:${app.address().port}`;
  const results = Object.fromEntries(MODES.map((mode) => [mode, []]));
  const measure = async (mode) => {
    const scripts = mode === 'observed' ? [observeChanges] : [];
    if (mode === 'none' || mode === 'observed') {
      return once(browser, `${target}/${query}`, steps, undefined, ...scripts);
    }
    const running = await serve({ target, port: 0, proxyPort: 0, settings: SETTINGS[mode] });
    const client = await RecordingClient.connect(running);
    const record = mode === 'waiting' ? undefined : recorderOf(client, mode === 'exact');
    try {
      return await once(browser, `${running.proxyOrigin}/${query}`, steps, record);
    } finally {
      client.close();
      running.close();
    }
  };
  for (let round = 0, failures = 0; round < rounds;) {
    try {
      const measured = [];
      for (const mode of MODES) measured.push([mode, await measure(mode)]);
      for (const [mode, result] of measured) results[mode].push(result);
      say(`${name}: round ${++round} of ${rounds}`);
    } catch (error) {
      say(`${name}: a round is left out and done again: ${error.message}`);
      if (++failures > rounds) throw error;
    }
  }
  app.close();
  app.closeAllConnections();
  return results;
}

function rewriting() {
  const paths = [
    'vue/dist/vue.global.prod.js',
    'quill/dist/quill.js',
    'chart.js/dist/chart.umd.js',
    'handlebars/dist/handlebars.js',
  ];
  const texts = paths.map((path) =>
    readFileSync(new URL(`../node_modules/${path}`, import.meta.url), 'utf8'),
  );
  const megabytes = texts.reduce((sum, text) => sum + text.length, 0) / 1e6;
  const timeOf = (work) => {
    const startMs = performance.now();
    for (const text of texts) work(text);
    return performance.now() - startMs;
  };
  const parse = () => timeOf((text) => parseScript(text));
  const rewrite = () => timeOf((text) => rewriteScript(text, { url: '/bundle.js', firstId: 0 }));
  parse();
  rewrite();
  const pairs = Array.from({ length: 7 }, () => [rewrite(), parse()]);
  const { ratio, low, high } = ratioOf(pairs);
  const otherParser = () => timeOf((text) => acornParse(text, { ecmaVersion: 'latest' }));
  otherParser();
  const parsers = ratioOf(Array.from({ length: 7 }, () => [parse(), otherParser()]));
  return {
    megabytesASecond: megabytes / (medianOf(pairs.map(([ms]) => ms)) / 1000),
    ratio,
    low,
    high,
    parserToOther: parsers.ratio,
  };
}

const file = readFileSync(new URL('../packages/recorder/dist/recorder.js', import.meta.url));
const report = {
  rounds,
  recorderBytes: { brotli: brotliCompressSync(file).length, gzip: gzipSync(file).length, limit: 14 * 1024 },
  rewriting: rewriting(),
  pages: {},
};
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
for (const [name, page] of Object.entries(INTERACTIONS)) {
  if (onlyPage !== undefined && name !== onlyPage) continue;
  const results = await measurePage(browser, name, page);
  const steps = Object.keys(page.steps).map((step) => {
    const of = (mode) => results[mode].map(({ responses }) => responses[step]);
    const compared = (mode) => ({
      medianMs: medianOf(of(mode)),
      ...ratioOf(of(mode).map((ms, at) => [ms, of('none')[at]])),
    });
    const noneMs = medianOf(of('none'));
    const calls = medianOf(results.exact.map(({ recorded }) => recorded.calls[step] ?? 0));
    const pairNs = medianOf(results.exact.map(({ pairNs: ns }) => ns));
    return {
      step,
      none: { medianMs: noneMs },
      observed: compared('observed'),
      waiting: compared('waiting'),
      everyday: compared('everyday'),
      fine: compared('fine'),
      isolated: compared('isolated'),
      exact: { ...compared('exact'), calls, pairNs, callsMs: (calls * pairNs) / 1e6 },
    };
  });
  const recorded = (mode, figure) => medianOf(results[mode].map(({ recorded: of }) => of[figure]));
  const figures = (mode) => ({
    longestTaskMs: Math.max(...results[mode].map(({ recorded: of }) => of.longestMs)),
    longestTasks: results[mode].map(({ recorded: of }) => `${of.longest} ${of.longestMs.toFixed(1)}`),
    medianLongestTaskMs: recorded(mode, 'longestMs'),
    rowsASecond: recorded(mode, 'rowsASecond'),
    bytesAMinute: recorded(mode, 'bytesAMinute'),
  });
  report.pages[name] = {
    steps,
    everyday: figures('everyday'),
    fine: figures('fine'),
    isolated: figures('isolated'),
    exact: figures('exact'),
  };
}
await browser.close();

if (asJson) console.log(JSON.stringify(report, null, 2));
else print(report);

function print({ recorderBytes, rewriting: speed, pages }) {
  say(
    `\nrecorder: ${recorderBytes.brotli} bytes (brotli), ${recorderBytes.gzip} (gzip); limit ${recorderBytes.limit}`,
  );
  say(
    `rewriting: ${speed.megabytesASecond.toFixed(2)} MB/s, ${speed.ratio.toFixed(2)} × the time of parsing alone (${speed.low.toFixed(2)} to ${speed.high.toFixed(2)}); its parser takes ${speed.parserToOther.toFixed(2)} × the time of acorn`,
  );
  for (const [name, { steps, ...modes }] of Object.entries(pages)) {
    say(`\n${name}: median response over ${rounds} rounds; ratio to none with its 95 % interval`);
    for (const { step, none, ...of } of steps) {
      say(`  ${step}: ${none.medianMs.toFixed(1)} ms without`);
      for (const mode of MODES.slice(1)) {
        const { medianMs, ratio, low, high } = of[mode];
        say(
          `    ${mode.padEnd(9)} ${medianMs.toFixed(1).padStart(7)} ms  × ${ratio.toFixed(3)} (${low.toFixed(3)} to ${high.toFixed(3)}), target × ${TARGETS[mode] ?? 1}`,
        );
      }
      say(
        `    exact: ${of.exact.calls.toFixed(0)} calls in it at ${of.exact.pairNs.toFixed(0)} ns a call are ${of.exact.callsMs.toFixed(1)} of the ${(of.exact.medianMs - none.medianMs).toFixed(1)} ms added`,
      );
    }
    for (const [mode, of] of Object.entries(modes)) {
      say(
        `  ${mode}: longest recorder task ${of.longestTaskMs.toFixed(1)} ms (median ${of.medianLongestTaskMs.toFixed(1)}, target 4; ${of.longestTasks.join(', ')}), ${of.rowsASecond.toFixed(0)} rows/s, ${(of.bytesAMinute / 1e6).toFixed(2)} MB/min`,
      );
    }
  }
}
