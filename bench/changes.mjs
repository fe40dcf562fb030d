/**
 * What everyday mode adds to layout that is forced again and again, and to many changes of the document at once: the same
 * work on the direct page, on the page with nothing but a mutation observer, and while it is recorded, in turn.
 * `npm run bench -- changes [--rounds 8] [--browser chromium] [--json]`
 */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { json } from 'node:stream/consumers';
import { openLocalBrowser, readSteps, recordScript, runSteps } from '../packages/server/dist/index.js';
import { observeChanges } from './lib/observe-changes.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';
import { medianOf, ratioOf } from './lib/statistics.mjs';
import { listening } from '../scripts/lib/listening.mjs';

const rounds = Number(valueOf('--rounds', '8'));
const browserName = valueOf('--browser', 'chromium');
const PRESSES = 12;
/** Presses before the engine has its code ready. */
const WARM = 4;
const TARGET = 1.3;

const page = (
  isObserved,
) => `<!doctype html><meta charset="utf-8"><title>Changes</title><link rel="icon" href="data:,">
<button id="go">Go</button><button id="tell">Tell</button><b id="done"></b><ul id="list"></ul>
<script>${isObserved ? `(${observeChanges})()` : ''}</script><script src="/changes.js"></script>`;

let taken;
const server = createServer(async (request, answer) => {
  if (request.url === '/taken') {
    taken = await json(request);
    answer.end();
  } else if (request.url === '/changes.js')
    answer
      .setHeader('content-type', 'text/javascript')
      .end(readFileSync(new URL('pages/changes.js', import.meta.url)));
  else answer.setHeader('content-type', 'text/html').end(page(request.url === '/observed'));
});
const app = await listening(server);
const address = (path) => new URL(path, app.url);
const steps = readSteps(
  JSON.stringify({
    steps: [
      ...Array.from({ length: PRESSES }, () => [
        { do: 'click', on: '#go' },
        { do: 'wait', ms: 120 },
      ]).flat(),
      { do: 'click', on: '#tell' },
      { do: 'wait', ms: 600 },
    ],
  }),
);

const WAYS = {
  direct: () => visit('/'),
  observed: () => visit('/observed'),
  everyday: async () => {
    const { failure } = await recordScript({
      url: address('/'),
      steps,
      settings: {},
      browser: browserName,
      repeat: 1,
    });
    if (failure !== undefined) throw failure;
  },
};

async function visit(path) {
  const browser = await openLocalBrowser(browserName);
  try {
    await browser.navigate(address(path).href);
    await runSteps(browser, steps, (one) => one);
  } finally {
    await browser.close();
  }
}

const figures = {};
try {
  for (let round = 0; round < rounds; round++) {
    for (const [way, run] of Object.entries(WAYS)) {
      taken = undefined;
      await run();
      if (taken === undefined) throw new Error(`the page told nothing: ${way}`);
      for (const name of Object.keys(taken[0])) {
        ((figures[name] ??= {})[way] ??= []).push(Math.min(...taken.slice(WARM).map((one) => one[name])));
      }
    }
  }
} finally {
  app.close();
}
say(
  `${browserName}, median of ${rounds} visits, each with its quickest of ${PRESSES - WARM} presses; ratios to the direct page`,
);
for (const [name, { direct, observed, everyday }] of Object.entries(figures)) {
  const told = (of) => {
    const { ratio, low, high } = ratioOf(of.map((ms, round) => [ms, direct[round]]));
    return `${ratio.toFixed(2)} (${low.toFixed(2)} to ${high.toFixed(2)})`;
  };
  say(
    `  ${name.padEnd(28)} direct ${medianOf(direct).toFixed(1).padStart(6)} ms   observed ${told(observed)}   everyday ${told(everyday)}   target ${TARGET}`,
  );
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
