/** Recordings made up for measuring: an hour of light use, with as many exact calls as asked for, and now and then a slow answer. */
import { gzipSync } from 'node:zlib';
import * as core from '../../packages/server/dist/index.js';

const SECONDS = 3600;
const FUNCTIONS = 400;
const DEEPEST = 14;
const EVENTS_A_CHUNK = 20_000;
/** Every so many seconds an answer takes this long, whatever the number of calls in it. */
const SLOW_EVERY = 120;
const SLOW_US = 600_000;
const USUAL_STEP_US = 4;

const header = {
  kind: 'header',
  format: core.FORMAT_NAME,
  version: core.FORMAT_VERSION,
  id: 'bench',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'A long watch at the boarding desk',
  mode: 'exact',
  startUp: false,
  clockStepMs: 0.005,
  refreshMs: 16.67,
  target: { title: 'Boarding desk', url: 'http://localhost:4781/', engine: 'bench', device: 'bench' },
  available: ['event', 'longtask', 'handlers', 'exact-calls'],
  missing: [],
};

/** Numbers from 0 up to 1, the same in every run. */
export function seeded(seed) {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

/** Events of one task with so many calls: a walk down and up a fixed call graph, from its root. */
function walk(random, root, startUs, calls, mostUs, push) {
  const open = [];
  let timeUs = startUs;
  for (let made = 0; made < calls;) {
    timeUs += Math.floor(random() * mostUs);
    const caller = open.at(-1);
    if (open.length > 1 && (open.length >= DEEPEST || random() < 0.45)) {
      open.pop();
      push(timeUs, core.CALL_END);
      continue;
    }
    const choice = random() < 0.8 ? 1 : 2;
    const called = caller === undefined ? root : (caller * 2 + choice) % FUNCTIONS;
    open.push(called);
    push(timeUs, called);
    made++;
  }
  while (open.length > 0) {
    open.pop();
    push((timeUs += 1), core.CALL_END);
  }
  return timeUs;
}

/** The function that is called in a second. */
const rootOf = (second) => second % 12;

function* eventsOfSecond(second, busyUs) {
  const startMs = second * 1000;
  const endMs = startMs + busyUs / 1000;
  yield {
    kind: 'handler',
    thread: 0,
    startMs,
    durationMs: endMs - startMs,
    type: 'event-listener',
    invoker: 'BUTTON.onclick',
    id: second + 1,
    function: rootOf(second),
  };
  yield {
    kind: 'input',
    thread: 0,
    startMs,
    durationMs: endMs - startMs + 12,
    type: 'click',
    interaction: second + 1,
    target: `button “Lane ${second % 12}”`,
    processingStartMs: startMs,
    processingEndMs: endMs,
  };
  if (busyUs > 50_000)
    yield { kind: 'task', thread: 0, startMs, durationMs: busyUs / 1000, source: 'longtask' };
  for (let frame = 0; frame < 4; frame++) {
    const atMs = endMs + 2 + frame * 17;
    yield { kind: 'render', thread: 0, startMs: atMs, durationMs: 6, styleMs: 1, layoutMs: 2, paintMs: 3 };
    yield {
      kind: 'redraw',
      thread: 0,
      startMs: atMs,
      nodes: 2,
      attributes: 3,
      texts: 0,
      changed: frame % 2 === 0,
      inView: true,
      target: 'element “Departures rows”',
      function: rootOf(second),
    };
  }
  yield { kind: 'cost', thread: 0, startMs, durationMs: 1000, busyMs: 4, longestMs: 1 };
}

/** Lines of a recording with so many exact calls. */
export function* linesOf(spans) {
  const random = seeded(7);
  yield JSON.stringify(header);
  yield '{"kind":"thread","id":0,"name":"main thread","type":"main"}';
  yield '{"kind":"source","id":0,"url":"http://localhost:4781/desk.js"}';
  for (let id = 0; id < FUNCTIONS; id++) {
    yield JSON.stringify({
      kind: 'function',
      id,
      name: `step${id}`,
      source: 0,
      line: id + 1,
      column: 1,
      owner: id % 5 === 4 ? 'library' : 'own',
    });
  }
  let timesUs = [];
  let functions = [];
  const push = (us, id) => {
    timesUs.push(us);
    functions.push(id);
  };
  let made = 0;
  for (let second = 0; second < SECONDS; second++) {
    const wanted = Math.round(((second + 1) / SECONDS) * spans) - made;
    made += wanted;
    const startUs = second * 1_000_000;
    const isSlow = second % SLOW_EVERY === SLOW_EVERY - 1;
    const mostUs = isSlow ? Math.max(USUAL_STEP_US, SLOW_US / Math.max(1, wanted)) : USUAL_STEP_US;
    const endUs = walk(random, rootOf(second), startUs, wanted, mostUs, push);
    if (timesUs.length >= EVENTS_A_CHUNK || second === SECONDS - 1) {
      yield JSON.stringify({ kind: 'calls', ...core.packCalls(0, { timesUs, functions }) });
      timesUs = [];
      functions = [];
    }
    for (const row of eventsOfSecond(second, endUs - startUs)) yield JSON.stringify(row);
  }
  yield JSON.stringify({ kind: 'end', startMs: SECONDS * 1000, reason: 'stopped' });
}

/** The compressed file of such a recording. */
export function generatedFile(spans) {
  const pieces = [];
  for (const line of core.withChecks(linesOf(spans))) pieces.push(line);
  return gzipSync(`${pieces.join('\n')}\n`, { level: 6 });
}
