/**
 * What fine mode tells of lines whose cost is known, in each engine, in a page that is isolated and in one that is not: a
 * page whose lines know what they take is used by real input, and the time of each line is held against what it truly took.
 */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { json } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';
import { WIDE_LENS, linesReport } from '../../packages/server/dist/index.js';
import { listening } from '../../scripts/lib/listening.mjs';
import { say } from './options.mjs';
import { recorded } from './recorded.mjs';

/** Of the time that is told of the lines of a part of the page, the share that stands on the right ones. */
const TARGETS = { isolated: 0.95, ordinary: 0.9 };
/** Lines of one part of the page, which are held against each other. */
const PARTS = {
  'long calls into the engine': ['parse', 'sort', 'replace', 'split'],
  'deep recursion': ['bottom', 'way up'],
  'after waiting': ['before', 'after one', 'after another'],
  'a short function, 250,000 times': ['thirty turns', 'ninety turns'],
  'calls of some microseconds': ['calculation', 'many calls'],
  'a line that is called back to': ['goes on calling', 'behind it'],
  'lines of one statement': [
    'element',
    'property',
    'chain',
    'first of a template',
    'second of a template',
    'decided',
  ],
};

const script = readFileSync(fileURLToPath(new URL('../pages/truth-lines.js', import.meta.url)), 'utf8');
const lineOf = new Map(
  script.split('\n').flatMap((line, at) => {
    const name = / \/\/ ([a-z ]+)$/.exec(line)?.[1];
    return name === undefined ? [] : [[name, at + 1]];
  }),
);
const BUTTONS = ['engine', 'deep', 'waits', 'often', 'many', 'back', 'one', 'done'];
const page = `<!doctype html><meta charset="utf-8"><title>Known lines</title><link rel="icon" href="data:,">
${BUTTONS.map((id) => `<button id="${id}" data-testid="${id}">${id}</button>`).join('\n')}
<script src="/truth-lines.js"></script>`;

const steps = [
  ...BUTTONS.slice(0, -1).flatMap((id) => [
    { do: 'click', on: `#${id}` },
    { do: 'wait', ms: 500 },
  ]),
  { do: 'click', on: '#done' },
  { do: 'wait', ms: 200 },
];

/** Told by line: its own time where it calls into the engine or calculates, with what it called where that is `spin`. */
function told(recording) {
  const lines = linesReport(recording, WIDE_LENS).filter(({ file }) => file.endsWith('truth-lines.js'));
  return new Map(lines.map(({ line, totalMs }) => [line, totalMs]));
}

/**
 * @param browsers by their names
 * @returns of each browser, isolated or not, and part of the page, the share of the time that stands on the right line
 */
export async function truthOfLines(browsers, rounds) {
  let took = {};
  const server = createServer(async (request, answer) => {
    if (request.url === '/took') {
      took = await json(request);
      answer.end();
    } else if (request.url.endsWith('.js')) answer.setHeader('content-type', 'text/javascript').end(script);
    else answer.setHeader('content-type', 'text/html').end(page);
  });
  const app = await listening(server);
  const url = new URL(app.url);
  const figures = [];
  try {
    for (const browser of browsers) {
      for (const isolate of [true, false]) {
        took = {};
        const settings = { mode: 'fine', isolate };
        const wanted = { url, steps, settings, browser, repeat: rounds };
        const { browser: called, recording } = await recorded(wanted);
        if (isolate && recording.header.isolated !== true) {
          say(`${called}: not measured isolated, as it does not isolate the page`);
          continue;
        }
        const byLine = told(recording);
        const how = isolate ? 'isolated' : 'ordinary';
        say(`${called}, ${how}: share of the time on the right line (target ${TARGETS[how]}), told ÷ true`);
        for (const [part, names] of Object.entries(PARTS)) {
          const truth = names.map((name) => took[name] ?? 0);
          const said = names.map((name) => byLine.get(lineOf.get(name)) ?? 0);
          const [trueMs, toldMs] = [truth, said].map((list) => list.reduce((sum, ms) => sum + ms, 0));
          const right = truth.reduce(
            (sum, ms, at) => sum + Math.min(ms / trueMs, said[at] / Math.max(1, toldMs)),
            0,
          );
          figures.push({ browser: called, how, part, right, ratio: toldMs / trueMs, truth, said });
          const each = names.map(
            (name, at) => `${name} ${said[at].toFixed(0)} of ${truth[at].toFixed(0)} ms`,
          );
          say(
            `  ${part.padEnd(34)} ${right.toFixed(3)}  ${(toldMs / trueMs).toFixed(3)}  ${each.join(', ')}`,
          );
        }
      }
    }
  } finally {
    app.close();
  }
  return figures;
}
