/**
 * Pages on which it is measured what the recorder costs, and how: steps that are taken with real input, and what each
 * took, in the page and without the recorder's help.
 */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { createDeskServer } from '../../packages/demo/dist/desk-server.js';
import { runSteps } from '../../packages/server/dist/index.js';
import { createWidgetServer } from '../pages/widgets.mjs';
import { medianOf } from './statistics.mjs';

const TOOK_LIMIT_MS = 120_000;
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** In a page: times from an input to the first message after its frame. */
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

/**
 * Takes steps one after the other, and marks the beginning of each.
 * @param steps by their names: what is measured, which steps those are, and what comes before them unmeasured
 * @returns of each the longest response, or of movements the median. Milliseconds
 */
async function responsesTo(browser, steps) {
  await browser.call(`${watchResponses}`);
  const responses = {};
  for (const [name, { type, before = [], act }] of Object.entries(steps)) {
    await runSteps(browser, before, String);
    await browser.call(
      `() => { globalThis.responses.length = 0; performance.mark(${JSON.stringify(name)}); }`,
    );
    await runSteps(browser, act, String);
    const seen = await browser.call('() => globalThis.responses');
    const lengths = seen.filter((response) => response.type === type).map(({ ms }) => ms);
    responses[name] = type === 'pointermove' ? medianOf(lengths) : Math.max(...lengths);
  }
  return responses;
}

const wait = (ms) => ({ do: 'wait', ms });
const tap = (on) => ({ type: 'click', act: [{ do: 'click', on }, wait(900)] });
const DESK_STEPS = {
  'tap on "Board all"': tap('#board-all'),
  'key in the manifest search': {
    type: 'keydown',
    before: [{ do: 'click', on: '#search-manifest' }, wait(500)],
    act: [{ do: 'type', text: 'h' }, wait(1100)],
  },
  'move on the deck plan': {
    type: 'pointermove',
    act: [
      { do: 'drag', on: '.vehicle:nth-child(60)', by: { x: 60, y: 20 }, moves: 5, everyMs: 90 },
      wait(300),
    ],
  },
};
const sortBy = (column) => tap(`.tabulator-col[tabulator-field=${column}] .tabulator-col-title`);
const WIDGET_STEPS = {
  'sort a table of 6,000 rows': sortBy('name'),
  'sort it by another column': sortBy('seat'),
  'sort it for the sixth time': {
    ...sortBy('name'),
    before: ['seat', 'name', 'seat'].flatMap((column) => sortBy(column).act),
  },
};

/** Handlers that time themselves, of several kinds. */
function createHandlerServer() {
  const read = (path) => readFileSync(fileURLToPath(new URL(path, import.meta.url)));
  const files = {
    '/vue.js': read('../../node_modules/vue/dist/vue.runtime.global.prod.js'),
    '/handlers.js': read('../pages/handlers.js'),
  };
  return createServer((request, answer) => {
    const script = files[request.url];
    if (script !== undefined) answer.setHeader('content-type', 'text/javascript').end(script);
    else
      answer
        .setHeader('content-type', 'text/html')
        .end(
          '<!doctype html><meta charset="utf-8"><title>Handlers</title><link rel="icon" href="data:,"><button id="run">Run</button><div id="list"></div><script src="/vue.js"></script><script src="/handlers.js"></script><script>document.body.dataset.ready = "";</script>',
        );
  });
}

async function timesOfHandlers(browser) {
  await runSteps(browser, [{ do: 'click', on: '#run' }], String);
  for (let waitedMs = 0; waitedMs < TOOK_LIMIT_MS; waitedMs += 500) {
    await pause(500);
    const took = await browser.call('() => globalThis.took');
    if (took != null) return took;
  }
  throw new Error(`handlers took longer than ${TOOK_LIMIT_MS} ms`);
}

/** By name: its server, its path, how it is measured, and a function that is looked at closer and never called. */
export const PAGES = {
  desk: {
    server: createDeskServer,
    path: '/?mended=ticker,tide-chart,deck-log,start-up',
    steps: DESK_STEPS,
    measure: (browser) => responsesTo(browser, DESK_STEPS),
  },
  widgets: {
    server: createWidgetServer,
    path: '/',
    steps: WIDGET_STEPS,
    measure: (browser) => responsesTo(browser, WIDGET_STEPS),
  },
  handlers: {
    server: createHandlerServer,
    path: '/',
    closer: 'handlers.js:1',
    measure: timesOfHandlers,
  },
};
/** The handler of the last page that does nothing but call a function of a few nanoseconds. */
export const WORST = 'ten lines, two million times';
