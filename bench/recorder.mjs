/**
 * What the recorder costs, in each engine: the same steps with real input without it, with nothing but a mutation
 * observer, with the recorder waiting in the page, with it in everyday mode, in fine mode (in an ordinary page, in an
 * isolated one, and with a function looked at closer that is not called) and with exact calls, in turn. What everyday mode
 * costs is held against what the engine takes to tell of changes, and what exact mode costs against the number of calls
 * it saw and what one call costs in the same page.
 * Each round starts a browser for each and loads the page several times in it: what else runs on a machine only adds to
 * a time, so that the lower quartile of the loads counts.
 * `npm run bench -- recorder [--rounds 5] [--loads 5] [--browsers chromium,firefox,webkit] [--pages desk,widgets,handlers] [--modes none,everyday,fine] [--json]`
 */
import { readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import {
  ENTER,
  LEAVE,
  RecordingClient,
  fileText,
  openLocalBrowser,
  readRecording,
  runSteps,
  serve,
} from '../packages/server/dist/index.js';
import { listening } from '../scripts/lib/listening.mjs';
import { browsersHere } from './lib/browsers.mjs';
import { observeChanges } from './lib/observe-changes.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { PAGES, WORST } from './lib/recorder-pages.mjs';
import { rewritingSpeed, sizesOf } from './lib/rewriting-cost.mjs';
import { lowerQuartileOf, medianOf, ratioOf } from './lib/statistics.mjs';

const rounds = Number(valueOf('--rounds', '5'));
const loads = Number(valueOf('--loads', '5'));
const browsers = browsersHere();
const pages = valueOf('--pages', Object.keys(PAGES).join()).split(',');
const ALL_MODES = 'none,observed,waiting,everyday,fine,isolated,closer,exact';
const modes = valueOf('--modes', ALL_MODES).split(',');
/** How the proxy treats the pages of each mode. */
const SETTINGS = {
  waiting: { mode: 'everyday' },
  everyday: { mode: 'everyday' },
  fine: { mode: 'fine' },
  isolated: { mode: 'fine', isolate: true },
  closer: { mode: 'fine' },
  exact: { mode: 'exact' },
};
/** At most so many times the time without the recorder; of what does nothing but call a tiny function, more. */
const TARGETS = { everyday: 1.02, fine: 1.1, isolated: 1.1, exact: 1.5 };
const WORST_TARGETS = { fine: 3, isolated: 2 };
const LONGEST_TASK_MS = 4;
const JOINED_LIMIT_MS = 10_000;
const PAIRS = 200_000;
const READY = [
  { do: 'wait-for', on: '[data-ready]' },
  { do: 'wait', ms: 700 },
];

/** What the beginning and the end of one call cost while it is recorded, in this page. Nanoseconds. */
function timePairs(enter, leave, pairs) {
  const [begin, end] = [globalThis[enter], globalThis[leave]];
  const startedAt = performance.now();
  for (let pair = 0; pair < pairs; pair++) {
    begin(0);
    end();
  }
  return ((performance.now() - startedAt) * 1e6) / pairs;
}

/** Calls in the longest answer to an input of each step, each step from its mark to the next. */
function callsOfSteps(recording, steps) {
  const calls = recording.calls.get(0);
  const marks = [...recording.events.span.rows()].filter(({ name }) => name in steps);
  const inputs = [...recording.events.input.rows()];
  const counts = marks.map(({ name, startMs }, at) => {
    const untilMs = marks[at + 1]?.startMs ?? Infinity;
    const [longest] = inputs
      .filter((input) => input.type === steps[name].type)
      .filter((input) => input.startMs >= startMs && input.startMs < untilMs)
      .sort((a, b) => b.durationMs - a.durationMs);
    if (longest === undefined || calls === undefined) return [name, 0];
    const endMs = longest.startMs + longest.durationMs;
    return [name, calls.firstFrom(endMs * 1000) - calls.firstFrom(longest.startMs * 1000)];
  });
  return Object.fromEntries(counts);
}

/** What a recording says of its own cost. */
function costOf(lines, seconds, steps) {
  const { recording } = readRecording([Buffer.from(fileText(lines))]);
  const costs = [...recording.events.cost.rows()].sort((a, b) => b.longestMs - a.longestMs);
  const bytes = lines.reduce((sum, line) => sum + line.length + 1, 0);
  return {
    rowsASecond: lines.length / seconds,
    bytesAMinute: (bytes / seconds) * 60,
    longestMs: costs[0]?.longestMs ?? 0,
    longest: costs[0]?.longest ?? 'none',
    isIsolated: recording.header.isolated === true,
    calls: steps === undefined ? undefined : callsOfSteps(recording, steps),
  };
}

/** A page that has joined and is not one of those seen. */
async function joinedAnew(client, seen) {
  for (let waitedMs = 0; waitedMs < JOINED_LIMIT_MS; waitedMs += 20) {
    const joined = client.targets.find(({ id }) => !seen.has(id));
    if (joined !== undefined) {
      seen.add(joined.id);
      return joined;
    }
    await pause(20);
  }
  throw new Error(`the page did not join within ${JOINED_LIMIT_MS} ms`);
}

/** Loads a page and measures it once, recorded where there is a client. @returns what was measured, and what recording it cost */
async function measureLoad(browser, url, page, mode, client, seen) {
  await browser.navigate(url);
  await runSteps(browser, READY, String);
  if (mode === 'observed') await browser.call(`${observeChanges}`);
  if (client === undefined) return { ms: await page.measure(browser) };
  const joined = await joinedAnew(client, seen);
  const startedAt = Date.now();
  const id = `cost-${seen.size}`;
  await client.start(joined, id);
  const ms = await page.measure(browser);
  const lines = await client.stop(joined, id);
  return { ms, joined, cost: costOf(lines, (Date.now() - startedAt) / 1000, page.steps) };
}

/** Opens a page in a browser of its own, several times, and measures each. @returns the lower quartiles, and each load's cost */
async function once(name, target, page, mode) {
  const isPlain = mode === 'none' || mode === 'observed';
  const settings = { ...SETTINGS[mode], ...(mode === 'closer' ? { closer: page.closer } : {}) };
  const running = isPlain
    ? undefined
    : await serve({ target, port: 0, proxyPort: 0, settings: { ...settings, isModeChosen: true } });
  const browser = await openLocalBrowser(name, { sharedMemory: settings.isolate === true });
  let client;
  try {
    const isRecorded = !isPlain && mode !== 'waiting';
    if (isRecorded) client = await RecordingClient.connect(running);
    const url = `${running?.proxyOrigin ?? target}${page.path}`;
    const seen = new Set();
    const measured = [];
    for (let load = 0; load < loads; load++) {
      measured.push(await measureLoad(browser, url, page, mode, client, seen));
    }
    const ms = Object.fromEntries(
      Object.keys(measured[0].ms).map((step) => [step, lowerQuartileOf(measured.map((one) => one.ms[step]))]),
    );
    if (!isRecorded) return { ms };
    const costs = measured.map(({ cost }) => cost);
    if (mode !== 'exact') return { ms, costs };
    const { joined } = measured.at(-1);
    await client.start(joined, 'pairs');
    const pairNs = await browser.call(
      `() => (${timePairs})(${JSON.stringify(ENTER)}, ${JSON.stringify(LEAVE)}, ${PAIRS})`,
    );
    await client.stop(joined, 'pairs');
    return { ms, costs, pairNs };
  } finally {
    await browser.close();
    client?.close();
    running?.close();
  }
}

/** @returns the results of each mode, by round; undefined where a round did not come to its end */
async function measured(name, target, page) {
  const wanted = modes.filter((mode) => mode !== 'closer' || page.closer !== undefined);
  const results = Object.fromEntries(wanted.map((mode) => [mode, []]));
  for (let round = 0; round < rounds; round++) {
    for (const mode of wanted) {
      try {
        const result = await once(name, target, page, mode);
        const isMeant = mode !== 'isolated' || result.costs.every(({ isIsolated }) => isIsolated);
        results[mode].push(isMeant ? result : undefined);
        if (!isMeant) say(`${name}, ${mode}: the page did not come up isolated`);
      } catch (error) {
        results[mode].push(undefined);
        say(`${name}, ${mode}: a round is left out: ${error.message}`);
      }
    }
  }
  return results;
}

const isThere = (value) => value !== undefined;

/** How long a step took in a mode and in another, by round. */
function pairsOf(step, mode, other, results) {
  return results[mode]
    .map((result, round) => [result?.ms[step], results[other]?.[round]?.ms[step]])
    .filter((pair) => pair.every(isThere));
}

function compare(step, mode, results) {
  const pairs = pairsOf(step, mode, 'none', results);
  if (pairs.length === 0) return undefined;
  // What rewriting adds to all else that is recorded.
  const isRewritten = (SETTINGS[mode]?.mode ?? 'everyday') !== 'everyday';
  const besideEveryday = isRewritten ? pairsOf(step, mode, 'everyday', results) : [];
  const target = (step === WORST ? WORST_TARGETS[mode] : undefined) ?? TARGETS[mode];
  return {
    step,
    mode,
    medianMs: medianOf(pairs.map(([ms]) => ms)),
    ...ratioOf(pairs),
    target,
    ...(besideEveryday.length === 0 ? {} : { toEveryday: ratioOf(besideEveryday) }),
  };
}

const ratioText = ({ ratio, low, high }) => `× ${ratio.toFixed(3)} (${low.toFixed(3)} to ${high.toFixed(3)})`;

function sayCompared({ mode, medianMs, target, toEveryday, ...ratio }) {
  const aim = target === undefined ? '' : `, target × ${target}`;
  const beside = toEveryday === undefined ? '' : `; of everyday ${ratioText(toEveryday)}`;
  say(`    ${mode.padEnd(9)} ${medianMs.toFixed(1).padStart(7)} ms  ${ratioText(ratio)}${aim}${beside}`);
}

/** What exact mode added to a step, held against the calls it saw. */
function exactCalls(step, { exact = [], none }) {
  const told = exact.filter((result) => result?.costs[0].calls?.[step] !== undefined);
  if (told.length === 0) return undefined;
  const calls = medianOf(told.flatMap(({ costs }) => costs.map(({ calls }) => calls[step])));
  const pairNs = medianOf(told.map((result) => result.pairNs));
  const withoutMs = medianOf(none.filter(isThere).map(({ ms }) => ms[step]));
  const addedMs = medianOf(told.map(({ ms }) => ms[step])) - withoutMs;
  say(
    `    exact: ${calls.toFixed(0)} calls in it at ${pairNs.toFixed(0)} ns a call are ${((calls * pairNs) / 1e6).toFixed(1)} of the ${addedMs.toFixed(1)} ms added`,
  );
  return { step, calls, pairNs, addedMs };
}

function ownCost(mode, results) {
  const costs = results[mode].flatMap((result) => result?.costs ?? []);
  if (costs.length === 0) return undefined;
  const median = (figure) => medianOf(costs.map((cost) => cost[figure]));
  const longest = costs.reduce((a, b) => (b.longestMs > a.longestMs ? b : a));
  const [rowsASecond, bytesAMinute] = [median('rowsASecond'), median('bytesAMinute')];
  say(
    `  ${mode}: longest recorder task ${longest.longestMs.toFixed(1)} ms, ${longest.longest} (median ${median('longestMs').toFixed(1)}, target ${LONGEST_TASK_MS}), ${rowsASecond.toFixed(0)} rows/s, ${(bytesAMinute / 1e6).toFixed(2)} MB/min`,
  );
  return {
    mode,
    longestMs: longest.longestMs,
    medianLongestMs: median('longestMs'),
    rowsASecond,
    bytesAMinute,
  };
}

async function measurePage(title, page) {
  const app = await listening(page.server());
  const sizes = await sizesOf(app.origin, page.path);
  say(`\n${title}`);
  for (const { source, bytes, ratios } of sizes) {
    const become = ratios.map(
      ({ mode, text, sent }) => `${mode} × ${text.toFixed(2)} (as it is sent × ${sent.toFixed(2)})`,
    );
    say(`  ${source}, ${(bytes / 1000).toFixed(0)} kB: ${become.join(', ')}`);
  }
  const engines = [];
  try {
    for (const name of browsers) {
      const results = await measured(name, app.origin, page);
      const withoutIt = results.none.filter(isThere);
      if (withoutIt.length === 0) continue;
      say(
        `  ${name}: median over ${rounds} rounds of the lower quartile of ${loads} loads; ratio to none with its 95 % interval`,
      );
      const compared = [];
      const exact = [];
      for (const step of Object.keys(withoutIt[0].ms)) {
        say(`   ${step}: ${medianOf(withoutIt.map(({ ms }) => ms[step])).toFixed(1)} ms without`);
        for (const mode of Object.keys(results).filter((one) => one !== 'none')) {
          const one = compare(step, mode, results);
          if (one !== undefined) sayCompared(one);
          compared.push(one);
        }
        exact.push(exactCalls(step, results));
      }
      const own = Object.keys(results).map((mode) => ownCost(mode, results));
      engines.push({
        browser: name,
        compared: compared.filter(isThere),
        exact: exact.filter(isThere),
        own: own.filter(isThere),
      });
    }
  } finally {
    app.close();
  }
  return { page: title, sizes, engines };
}

const file = readFileSync(new URL('../packages/recorder/dist/recorder.js', import.meta.url));
const recorderBytes = {
  brotli: brotliCompressSync(file).length,
  gzip: gzipSync(file).length,
  limit: 14 * 1024,
};
const rewriting = rewritingSpeed();
say(
  `recorder: ${recorderBytes.brotli} bytes (brotli), ${recorderBytes.gzip} (gzip); limit ${recorderBytes.limit}`,
);
for (const { mode, megabytesASecond, ratio, low, high } of rewriting.speeds)
  say(
    `rewriting, ${mode}: ${megabytesASecond.toFixed(2)} MB/s, ${ratio.toFixed(2)} × the time of parsing alone (${low.toFixed(2)} to ${high.toFixed(2)})`,
  );
say(`its parser takes ${rewriting.parserToOther.toFixed(2)} × the time of acorn`);
const report = { rounds, loads, recorderBytes, rewriting, pages: [] };
for (const title of pages) report.pages.push(await measurePage(title, PAGES[title]));
if (asJson) console.log(JSON.stringify(report, null, 2));
