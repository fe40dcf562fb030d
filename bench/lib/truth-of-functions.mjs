/**
 * What is told of functions whose cost is known, in each engine and mode: a page whose functions run until the clock has
 * gone on by a known time is used by real input, and each function's own time is held against what it truly took.
 */
import { createServer } from 'node:http';
import { readFileSync } from 'node:fs';
import { json } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';
import {
  WIDE_LENS,
  rangeBreakdown,
  displayName,
  functionTable,
  interactionsOf,
} from '../../packages/server/dist/index.js';
import { listening } from '../../scripts/lib/listening.mjs';
import { say } from './options.mjs';
import { recorded } from './recorded.mjs';

/** Own time of each function in one round. Milliseconds. */
const TRUE_MS = {
  handler05: 40 * 0.5,
  handler2: 40 * 2,
  partFirst: 6,
  partMiddle: 15,
  partLast: 9,
  handler400: 80,
  inner400: 320,
  inTimer: 120,
  afterAnswer: 60,
  afterPromise: 20,
  short: 40,
  inFrame: 25,
  inWorker: 80,
};
/** Reading the clock is the functions' own doing. */
const LENS = { ...WIDE_LENS, foldLibraries: true };
/** What the shortest of them take at a time: where the clock steps by as much, nobody knows what they truly took. */
const AT_A_TIME_MS = { handler05: 0.5, short: 0.2 };
const BUTTONS = [
  'quick',
  'parts',
  'long',
  'timers',
  'answer',
  'promise',
  'short',
  'frame',
  'layout',
  'worker',
];
const script = (name) => readFileSync(fileURLToPath(new URL(`../pages/${name}`, import.meta.url)));
const page = `<!doctype html><meta charset="utf-8"><title>Known costs</title>
${BUTTONS.map((id) => `<button id="${id}" data-testid="${id}">${id}</button>`).join('\n')}
<script src="/truth.js"></script>`;

const steps = BUTTONS.flatMap((id) => [
  { do: 'click', on: `#${id}` },
  { do: 'wait', ms: id === 'quick' ? 1100 : 550 },
]);

/** The share of the busy time of the main thread that nothing explains. */
function unexplainedShare(recording) {
  const { totalMs, idleMs, unexplainedMs } = rangeBreakdown(recording, 0, recording.range);
  return unexplainedMs / Math.max(1, totalMs - idleMs);
}

function told(recording) {
  const self = new Map();
  const rows = [...recording.threads.keys()].flatMap((thread) =>
    functionTable(recording, { ...LENS, thread }),
  );
  for (const { functionId, selfMs, selfErrorMs } of rows) {
    const name = displayName(recording.functions.get(functionId));
    const known = self.get(name) ?? { selfMs: 0, errorMs: 0, rows: 0 };
    self.set(name, {
      selfMs: known.selfMs + selfMs,
      errorMs: Math.hypot(known.errorMs, selfErrorMs),
      rows: known.rows + 1,
    });
  }
  return self;
}

/**
 * @param browsers by their names
 * @returns of each browser and mode, what is told of each function, as a ratio to what it took
 */
export async function truthOfFunctions(browsers, rounds) {
  /** What the page says itself that its forced layouts took, of all rounds. Milliseconds. */
  let tookMs = 0;
  const server = createServer(async (request, answer) => {
    if (request.url === '/took') {
      const { forcesLayout } = await json(request);
      tookMs += forcesLayout;
      answer.end();
    } else if (request.url.endsWith('.js'))
      answer.setHeader('content-type', 'text/javascript').end(script(request.url.slice(1)));
    else if (request.url === '/truth.json')
      answer.setHeader('content-type', 'application/json').end('{"lanes":3}');
    else answer.setHeader('content-type', 'text/html').end(page);
  });
  const app = await listening(server);
  const url = new URL(app.url);

  const figures = [];
  try {
    for (const browser of browsers) {
      for (const mode of ['everyday', 'exact']) {
        tookMs = 0;
        const wanted = { url, steps, settings: { mode }, browser, repeat: rounds };
        const { browser: called, recording } = await recorded(wanted);
        const self = told(recording);
        const forced = [...recording.events.forced.rows()];
        const forcedMs = forced.reduce((sum, { costMs }) => sum + costMs, 0);
        const functions = Object.entries(TRUE_MS).map(([name, ms]) => {
          const known = self.get(name) ?? { selfMs: 0, errorMs: 0, rows: 0 };
          const trueMs = ms * rounds;
          return {
            name,
            trueMs,
            ratio: known.selfMs / trueMs,
            error: known.errorMs / trueMs,
            rows: known.rows,
          };
        });
        const figure = {
          browser: called,
          mode,
          interactions: interactionsOf(recording).length,
          taps: BUTTONS.length * rounds,
          unexplainedShare: unexplainedShare(recording),
          forcedLayout: { trueMs: tookMs, ratio: forcedMs / tookMs },
          functions,
        };
        figures.push(figure);
        say(
          `${figure.browser}, ${mode}: told ÷ true (± one standard error of sampling), rows of the function`,
        );
        const { clockStepMs } = recording.header;
        for (const { name, trueMs, ratio, error, rows } of functions) {
          if ((AT_A_TIME_MS[name] ?? Infinity) <= 2 * clockStepMs) {
            say(`  ${name.padEnd(13)} not to be known with a clock that steps by ${clockStepMs} ms`);
            continue;
          }
          if (rows === 0) {
            say(`  ${name.padEnd(13)} not seen, and not told of`);
            continue;
          }
          const spread = error > 0 ? ` ± ${error.toFixed(2)}` : '';
          say(
            `  ${name.padEnd(13)} ${trueMs.toFixed(0).padStart(5)} ms  ${ratio.toFixed(3)}${spread}  ${rows}`,
          );
        }
        say(`  forced layout ${tookMs.toFixed(0).padStart(5)} ms  ${(forcedMs / tookMs).toFixed(3)}`);
        say(`  unexplained ${(figure.unexplainedShare * 100).toFixed(1)} % of the busy time`);
        say(`  interactions ${figure.interactions} of ${figure.taps} taps`);
      }
    }
  } finally {
    app.close();
  }
  return figures;
}
