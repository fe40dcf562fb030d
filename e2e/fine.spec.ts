import { expect, test } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import {
  RecordingClient,
  WIDE_LENS,
  callTree,
  callsOfRow,
  displayName,
  functionTable,
  linesReport,
  openLocalBrowser,
  readSteps,
  runSteps,
  serve,
  type Anatomy,
  type Recording,
} from '../packages/server/dist/index.js';
import { CALM } from './calm';
import { localApp, type LocalApp } from './local-app';
import { ENGINES, needs, recordIn, recordingOf, where, worst, type Engine } from './scripted';
import { listening } from '../scripts/lib/listening.mjs';

const STEPS = [
  { do: 'wait-for', on: '[data-ready]' },
  { do: 'wait', ms: 600 },
  { do: 'click', on: '#board-all' },
  { do: 'wait', ms: 1400 },
  { do: 'click', on: '#search-manifest' },
  { do: 'wait', ms: 500 },
  { do: 'type', text: 'h' },
  { do: 'wait', ms: 1800 },
  { do: 'drag', on: '.vehicle:nth-child(60)', by: { x: 60, y: 20 }, moves: 3, everyMs: 400 },
  { do: 'wait', ms: 800 },
];

let desk: LocalApp;
let url: string;

test.beforeAll(async () => {
  desk = await listening(createDeskServer());
  url = `${desk.origin}/${CALM}`;
});
test.afterAll(() => {
  desk.close();
});

/** An app of one page and one script. */
const appOf = (page: string, script: string) =>
  localApp((request, response) => {
    const isScript = request.url?.endsWith('.js') === true;
    response.writeHead(200, { 'content-type': isScript ? 'text/javascript' : 'text/html' });
    response.end(isScript ? script : page);
  });

/** The own function that a delay is charged to most, and the line in it. */
function hottest(recording: Recording, anatomy: Anatomy): string {
  const [culprit] = anatomy.culprits;
  return `${displayName(recording.functions.get(culprit!.functionId))}:${culprit!.hotLines[0]!.line}`;
}

/** Calls of each function by its place. */
function callsByPlace(recording: Recording): Map<string, number> {
  return new Map(
    functionTable(recording, WIDE_LENS).map((row) => [where(recording, row.functionId), callsOfRow(row)]),
  );
}

for (const engine of ENGINES) {
  test(`${engine}, fine: the three slow handlers down to the line, without exact calls`, async () => {
    needs(engine);
    test.setTimeout(120_000);
    const recording = await recordIn(engine, url, 'fine', STEPS);
    expect(recording.header).toMatchObject({ fine: true, isolated: false });
    const exact = recording.calls.get(0)!;
    const roots = Array.from(exact.roots, (at) =>
      recording.functions.get(recording.stacks.functionOf(exact.stacks[at]!))!,
    );
    expect(roots.filter(({ activity }) => activity === undefined)).toEqual([]);
    expect(recording.header.missing).toContain('exact-calls');

    const board = worst(recording, 'Tap button “Board all”')!;
    expect(hottest(recording, board)).toBe('bendingOfPair:29');
    const search = worst(recording, 'Type in search field “Search manifest”')!;
    expect(hottest(recording, search)).toBe('foldAccents:8');
    const [dearest] = linesReport(recording, WIDE_LENS).sort((a, b) => b.totalMs - a.totalMs);
    expect(dearest).toBeDefined();
    const inDrag = linesReport(recording, WIDE_LENS).find(
      ({ file, line }) => file === 'src/desk/deck/drag.ts' && line === 13,
    )!;
    expect(inDrag.totalMs).toBeGreaterThan(50);
    expect(inDrag.samples).toBeGreaterThan(10);
  });
}

for (const engine of ENGINES) {
  test(`${engine}: one function is looked at closer, with its lines and within its callers`, async () => {
    needs(engine);
    const recording = await recordIn(engine, url, 'fine', STEPS.slice(0, 4), {
      closer: 'src/desk/deck/trim.ts:35',
    });
    const rows = new Map(
      functionTable(recording, WIDE_LENS).map((row) => [
        displayName(recording.functions.get(row.functionId)),
        row,
      ]),
    );
    expect(rows.get('bendingOfAllPairs')).toMatchObject({ count: 1, selfErrorMs: 0 });
    const pairs = rows.get('bendingOfPair')!;
    expect([pairs.count, callsOfRow(pairs)]).toEqual([44_850, 44_850]);
    expect(rows.get('onBoardAll')).toMatchObject({ count: 0, counted: 1 });
    const tree = callTree(recording, WIDE_LENS);
    const boarding = tree
      .roots()
      .find(({ functionId }) => displayName(recording.functions.get(functionId)) === 'onBoardAll')!;
    expect(boarding.totalMs).toBeGreaterThanOrEqual(pairs.totalMs);
    const board = worst(recording, 'Tap button “Board all”')!;
    expect(hottest(recording, board)).toBe('bendingOfPair:29');
  });
}

test('counts are those of exact mode, of functions too small for exact calls as well', async () => {
  needs('chromium');
  test.setTimeout(120_000);
  const steps = STEPS.slice(0, 8);
  const [fine, exact] = [
    callsByPlace(await recordIn('chromium', url, 'fine', steps)),
    callsByPlace(await recordIn('chromium', url, 'exact', steps)),
  ];
  for (const name of ['bendingOfPair', 'foldAccents', 'wordsOf', 'onBoardAll', 'onSearchInput']) {
    const [place, count] = [...exact].find(([one]) => one.startsWith(`${name} `))!;
    expect(fine.get(place), place).toBe(count);
  }
  const onlyCounted = [...fine].filter(([place, count]) => count > 0 && !exact.has(place));
  expect(onlyCounted.length).toBeGreaterThan(0);
});

const HANG_MS = 2500;
const HANG_LINES = [5, 6];
/** A handler that hangs for so long in a loop on these lines, and then ends. */
const HANGING = `
document.getElementById('hang').addEventListener('click', function onHang() {
  const end = performance.now() + ${HANG_MS};
  let turns = 0;
  while (performance.now() < end) {
    turns = (turns * 31 + 7) % 1000003;
  }
});`;

const BUTTONS =
  '<!doctype html><title>Hangs</title><link rel="icon" href="data:,"><button id="hang">Hang</button><script src="/hang.js"></script>';
const HANG_STEPS = [
  { do: 'click', on: '#hang' },
  { do: 'wait', ms: 3200 },
];

/** What some lines of a script cost in all: samples, and sampled milliseconds of their own. */
const costOf = (recording: Recording, script: string, lines: readonly number[], lens = WIDE_LENS) =>
  linesReport(recording, lens)
    .filter(({ file, line }) => file.endsWith(script) && lines.includes(line))
    .reduce((sum, row) => ({ samples: sum.samples + row.samples, selfMs: sum.selfMs + row.selfMs }), {
      samples: 0,
      selfMs: 0,
    });

/** How long the longest handler of a thread ran, as it was timed. */
const longestHandlerMs = (recording: Recording, { thread } = WIDE_LENS) =>
  Math.max(
    ...[...recording.events.handler.rows()]
      .filter((handler) => handler.thread === thread)
      .map(({ durationMs }) => durationMs),
  );

/** Holds that a handler that only turns in a loop stands on its lines: nearly all its time, in more than a few samples. */
function expectOnLines({ samples, selfMs }: ReturnType<typeof costOf>, handlerMs: number, ms: number): void {
  expect(handlerMs).toBeGreaterThanOrEqual(ms - 2);
  expect(selfMs).toBeGreaterThan(handlerMs * 0.95 - 2);
  expect(selfMs).toBeLessThan(handlerMs * 1.05 + 2);
  expect(samples).toBeGreaterThan(ms / 10);
}

const PAGES = ENGINES.flatMap((engine) => [true, false].map((isolate) => ({ engine, isolate })));
for (const { engine, isolate } of PAGES) {
  const how = isolate ? 'isolated' : 'ordinary';
  test(
    `${engine}: a hang is told with its line while it lasts, in an ${how} page`,
    { tag: '@waits' },
    async () => {
      needs(engine);
      const app = await appOf(BUTTONS, HANGING);
      const recording = await recordIn(engine, app.url, 'fine', HANG_STEPS, { isolate });
      app.close();
      expect(recording.header.isolated).toBe(isolate);
      // What is told later may be told when the loop has ended already, and the page has not said so yet.
      const lasting = [...recording.events.hang.rows()].filter(
        ({ ended, durationMs }) => !ended && durationMs < HANG_MS,
      );
      expect(lasting.length).toBeGreaterThan(1);
      for (const hang of lasting) {
        const stack = recording.stacks.ofRow(hang.stack)!;
        expect(displayName(recording.functions.get(recording.stacks.functionOf(stack)))).toBe('onHang');
        expect(HANG_LINES).toContain(recording.stacks.lineOf(stack));
      }
      expectOnLines(costOf(recording, 'hang.js', HANG_LINES), longestHandlerMs(recording), HANG_MS);
    },
  );
}

test('webkit: an isolated page that cannot share its memory is sampled by looks', async () => {
  needs('webkit');
  const app = await appOf(BUTTONS, HANGING);
  const settings = { mode: 'fine', isolate: true } as const;
  const running = await serve({ target: app.origin, port: 0, proxyPort: 0, settings });
  const client = await RecordingClient.connect(running);
  const browser = await openLocalBrowser('webkit');
  try {
    await browser.navigate(`${running.proxyOrigin}/`);
    const target = await client.target();
    expect(await browser.call('() => crossOriginIsolated && typeof SharedArrayBuffer')).toBe('undefined');
    await client.start(target, 'isolated');
    await runSteps(browser, readSteps(JSON.stringify({ steps: HANG_STEPS })), String);
    const recording = recordingOf(await client.stop(target, 'isolated'));
    expect(recording.header).toMatchObject({ fine: true, isolated: false });
    expectOnLines(costOf(recording, 'hang.js', HANG_LINES), longestHandlerMs(recording), HANG_MS);
  } finally {
    await browser.close();
    client.close();
    running.close();
    app.close();
  }
});

const TIDES_MS = 200;
/** A worker that is busy on one line, and an entry of which nothing else is known. */
const TIDES = `'use strict';
const roundTide = (tide) => { let sum = 0; for (let at = 0; at < 9; at++) sum += Math.round(tide / 10) * 10 + at; return sum; };
function interpolateTide(ms) {
  const end = performance.now() + ms;
  let tide = 0;
  while (performance.now() < end) {
    tide = (tide * 31 + 7) % 1000003;
  }
  return roundTide(tide) + roundTide(end);
}
self.onmessage = ({ data }) => self.postMessage(interpolateTide(data));
`;

/** What the worker says it did in answer to a tap, recorded in fine mode. */
async function recordTides(engine: Engine, settings: Parameters<typeof recordIn>[4]) {
  const app = await appOf(
    `<!doctype html><title>Tides</title><link rel="icon" href="data:,"><button id="go">Go</button><output id="out"></output><script>const worker = new Worker("/tides.js", { name: "tides" }); worker.onmessage = () => (out.className = "done"); go.addEventListener("click", () => worker.postMessage(${TIDES_MS}));</script>`,
    TIDES,
  );
  const steps = [
    { do: 'wait', ms: 600 },
    { do: 'click', on: '#go' },
    { do: 'wait-for', on: '#out.done' },
    { do: 'wait', ms: 400 },
  ];
  const recording = await recordIn(engine, app.url, 'fine', steps, settings);
  app.close();
  const thread = [...recording.threads.values()].find(({ name }) => name === 'worker: tides')!.id;
  const lens = { ...WIDE_LENS, thread };
  const calls = new Map(
    functionTable(recording, lens).map((row) => [displayName(recording.functions.get(row.functionId)), row]),
  );
  return {
    calls,
    inLoop: costOf(recording, 'tides.js', [6, 7], lens),
    handlerMs: longestHandlerMs(recording, lens),
  };
}

for (const { engine, isolate } of PAGES) {
  const how = isolate ? 'isolated' : 'ordinary';
  test(`${engine}: a worker of the app is sampled like the page, by lines, in an ${how} page`, async () => {
    needs(engine);
    const { calls, inLoop, handlerMs } = await recordTides(engine, { isolate });
    expectOnLines(inLoop, handlerMs, TIDES_MS);
    expect(callsOfRow(calls.get('interpolateTide')!)).toBe(1);
  });
}

for (const engine of ENGINES) {
  test(`${engine}: a function of a worker is looked at closer`, async () => {
    needs(engine);
    const { calls, inLoop, handlerMs } = await recordTides(engine, { closer: 'tides.js:3' });
    expect(calls.get('interpolateTide')).toMatchObject({ count: 1, selfErrorMs: 0 });
    expect(calls.get('interpolateTide')!.totalMs).toBeGreaterThan(TIDES_MS - 2);
    expect(calls.get('roundTide')).toMatchObject({ count: 2 });
    expectOnLines(inLoop, handlerMs, TIDES_MS);
  });
}
