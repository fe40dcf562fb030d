/** Asks a page in a browser what it can see of its surroundings: alone, behind the proxy, and while it is recorded. */
import { readFileSync, readdirSync } from 'node:fs';
import { createServer } from 'node:http';
import { text } from 'node:stream/consumers';
import { listening } from '../../scripts/lib/listening.mjs';
import { KNOWN } from './known.mjs';
import {
  openLocalBrowser,
  readSteps,
  recordScript,
  serve,
  runSteps,
} from '../../packages/server/dist/index.js';

/** How a page is looked at: by itself, through the proxy in everyday mode, and recorded in each mode. */
export const WAYS = ['alone', 'proxied', 'everyday', 'fine', 'exact'];

const CHECKS = new URL('checks/', import.meta.url);
const FIRST = 'start.js';
/** As many parts as there are pairs of checks, or more: each of a pair has a limit, and a step waits for both. */
const PARTS = 160;
const STEPS = readSteps(
  JSON.stringify({
    steps: [
      { do: 'click', on: '#go' },
      ...Array.from({ length: PARTS }, (_, part) => ({ do: 'wait-for', on: `.part-${part}` })),
      { do: 'wait-for', on: '#done' },
    ],
  }),
);

const ECHO = 'onmessage = ({ data, ports }) => postMessage([data, ports.length]); postMessage("ready");';
const FILES = {
  '/echo.js': ['text/javascript', ECHO],
  '/shared.js': [
    'text/javascript',
    'onconnect = ({ ports: [port] }) => { port.onmessage = ({ data }) => port.postMessage([data]); port.postMessage("ready"); };',
  ],
  '/module.js': [
    'text/javascript',
    'export const lane = 3; export const name = (() => import.meta.url.split("/").pop())();',
  ],
  '/data': ['application/json', '{"lane":3}'],
  '/frame.html': [
    'text/html',
    '<!doctype html><html><head></head><body><script>globalThis.answer = [1].map((n) => n + 1);</script></body></html>',
  ],
};

function page() {
  const scripts = readdirSync(CHECKS)
    .filter((file) => file.endsWith('.js') && file !== FIRST)
    .sort();
  const tags = [FIRST, ...scripts].map((file) => `<script src="/checks/${file}"></script>`).join('\n');
  return `<!doctype html><html><head><meta charset="utf-8"><title>Checks</title><link rel="icon" href="data:,"></head>
<body><button id="go">Go</button><script>const PARTS = ${PARTS};</script>
${tags}
<script>document.getElementById('go').addEventListener('click', answerAll);</script></body></html>`;
}

/** Serves the checks, and takes the answers. */
async function startApp() {
  const answers = [];
  const server = createServer(async (request, response) => {
    const { pathname } = new URL(request.url, 'http://localhost');
    const send = (type, body, status = 200) => response.writeHead(status, { 'content-type': type }).end(body);
    if (pathname === '/answers') {
      answers.push(JSON.parse(await text(request)));
      send('text/plain', '');
    } else if (pathname.startsWith('/checks/'))
      send('text/javascript', readFileSync(new URL(pathname.split('/').pop(), CHECKS)));
    else if (pathname in FILES) send(...FILES[pathname]);
    else if (pathname === '/') send('text/html', page());
    else send('text/plain', 'There is none.', 404);
  });
  return { answers, ...(await listening(server)) };
}

async function visit(browserName, address) {
  const browser = await openLocalBrowser(browserName);
  try {
    await browser.navigate(address);
    await runSteps(browser, STEPS, (one) => one);
  } finally {
    await browser.close();
  }
}

async function ask(app, browserName, way) {
  if (way === 'alone') await visit(browserName, app.url);
  else if (way === 'proxied') {
    const running = await serve({
      target: app.origin,
      port: 0,
      proxyPort: 0,
      settings: { mode: 'everyday', isModeChosen: true },
    });
    await visit(browserName, `${running.proxyOrigin}/`).finally(() => running.close());
  } else {
    const { failure } = await recordScript({
      url: new URL(app.url),
      steps: STEPS,
      settings: { mode: way },
      browser: browserName,
      repeat: 1,
    });
    if (failure !== undefined) throw failure;
  }
}

/**
 * What a page in a browser answers to each check, in some ways of looking at it.
 * @returns {Promise<Record<string, Record<string, string>>>} by way and by name of the check, each answer as JSON
 */
export async function answersOf(browserName, ways = WAYS) {
  const app = await startApp();
  try {
    const byWay = {};
    for (const way of ways) {
      await ask(app, browserName, way);
      const plain = ([name, answer]) => [
        name,
        (JSON.stringify(answer) ?? '').replaceAll(/localhost:\d+/g, 'localhost'),
      ];
      byWay[way] = Object.fromEntries(Object.entries(app.answers.at(-1)).map(plain));
    }
    return byWay;
  } finally {
    app.close();
  }
}

/** Names of the checks whose answer is another than alone, by way. */
export function differing(byWay) {
  const { alone, ...others } = byWay;
  return Object.fromEntries(
    Object.entries(others).map(([way, answers]) => [
      way,
      Object.keys(alone).filter((name) => answers[name] !== alone[name]),
    ]),
  );
}

/**
 * Names of the checks that differ, by way, and are not known to. A machine that is slow can change an answer now and
 * then, a recorder that is noticed changes it always: what differs is asked again.
 */
export async function unexpected(browserName, tries = 3) {
  let left;
  let ways = WAYS;
  for (let turn = 0; turn < tries; turn++) {
    const found = differing(await answersOf(browserName, ways));
    left = Object.fromEntries(
      Object.entries(found)
        .map(([way, names]) => [
          way,
          names.filter(
            (name) => !KNOWN[name]?.ways.includes(way) && (left === undefined || left[way].includes(name)),
          ),
        ])
        .filter(([, names]) => names.length > 0),
    );
    ways = ['alone', ...Object.keys(left)];
    if (ways.length === 1) break;
  }
  return left;
}
