/**
 * How long the core takes, each figure beside a limit taken in the same run on the same bytes: what it takes to
 * decompress the file and parse its lines as JSON, which no reader can do without.
 */
import { gunzipSync, gzipSync } from 'node:zlib';
import * as core from '../packages/server/dist/index.js';

const ROUNDS = 5;
const MINUTES = [1, 10, 60];

const header = {
  kind: 'header',
  format: core.FORMAT_NAME,
  version: core.FORMAT_VERSION,
  id: 'bench',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'A long watch at the boarding desk',
  mode: 'everyday',
  startUp: false,
  clockStepMs: 0.1,
  refreshMs: 16.7,
  target: { title: 'Boarding desk', url: 'http://localhost:4781/', engine: 'bench', device: 'bench' },
  available: [],
  missing: [],
};

/** Numbers from 0 up to 1, the same in every run. */
function seeded(seed) {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

/** Lines of a recording of some minutes of use: samples every 10 ms, an input each second, a long task each fourth. */
function* linesOf(minutes) {
  const random = seeded(7);
  yield JSON.stringify(header);
  yield '{"kind":"source","id":0,"url":"http://localhost:4781/desk.js"}';
  for (let id = 0; id < 200; id++)
    yield JSON.stringify({ kind: 'function', id, name: `step${id}`, source: 0, line: id + 1, column: 1 });
  for (let id = 0; id < 400; id++) {
    const parent = id < 20 ? {} : { parent: Math.floor(random() * id) };
    yield JSON.stringify({ kind: 'stack', id, function: Math.floor(random() * 200), ...parent });
  }
  for (let second = 0; second < minutes * 60; second++) {
    const startMs = second * 1000;
    const busyMs = second % 4 === 0 ? 120 + random() * 300 : 20;
    const timesUs = Array.from({ length: 100 }, (_, index) => (startMs + index * 10) * 1000);
    const stacks = timesUs.map((_, index) =>
      index * 10 < busyMs ? Math.floor(random() * 400) : core.NO_STACK,
    );
    yield JSON.stringify({ kind: 'samples', ...core.packSamples(0, 10, { timesUs, stacks }) });
    yield JSON.stringify({
      kind: 'input',
      thread: 0,
      startMs,
      durationMs: busyMs + 16,
      type: 'click',
      interaction: second + 1,
      target: `button “Lane ${second % 12}”`,
      processingStartMs: startMs + 2,
      processingEndMs: startMs + busyMs,
    });
    if (busyMs < 50) continue;
    yield JSON.stringify({ kind: 'task', thread: 0, startMs, durationMs: busyMs, source: 'longtask' });
    yield JSON.stringify({
      kind: 'frame',
      thread: 0,
      startMs,
      durationMs: busyMs,
      renderStartMs: startMs + busyMs - 8,
      styleStartMs: startMs + busyMs - 6,
    });
    yield JSON.stringify({
      kind: 'handler',
      thread: 0,
      startMs: startMs + 2,
      durationMs: busyMs - 10,
      type: 'event-listener',
      invoker: 'BUTTON',
      function: 3,
      forcedMs: 4,
    });
  }
  yield JSON.stringify({ kind: 'end', startMs: minutes * 60_000, reason: 'stopped' });
}

function median(work) {
  const times = Array.from({ length: ROUNDS }, () => {
    const startedAt = performance.now();
    work();
    return performance.now() - startedAt;
  });
  return times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)];
}

function measure(minutes) {
  const file = gzipSync([...core.withChecks(linesOf(minutes))].map((line) => `${line}\n`).join(''));
  const limitMs = median(() => {
    for (const line of gunzipSync(file).toString('utf8').split('\n')) if (line !== '') JSON.parse(line);
  });
  let opened;
  const openMs = median(() => {
    const { recording } = core.readRecording([gunzipSync(file)]);
    opened = { recording, stings: core.findStings(recording, core.DEFAULT_THRESHOLDS) };
  });
  const { recording, stings } = opened;
  const partitionMs = median(() => core.partition(recording, 0, recording.range));
  const anatomyMs = median(() => core.becauseOf(recording, core.anatomyOf(recording, stings[0])));
  return {
    minutes,
    fileBytes: file.length,
    samples: minutes * 6000,
    stings: stings.length,
    limitMs,
    openMs,
    openRatio: openMs / limitMs,
    partitionMs,
    partitionNsPerSample: (partitionMs * 1e6) / (minutes * 6000),
    anatomyMs,
  };
}

const figures = MINUTES.map(measure);
if (process.argv.includes('--json')) {
  console.log(JSON.stringify(figures, null, 2));
} else {
  console.log(
    'Opening a recording, from compressed bytes to ranked stings. Limit: decompress and parse the same bytes as JSON.',
  );
  for (const figure of figures) {
    const {
      minutes,
      fileBytes,
      stings,
      limitMs,
      openMs,
      openRatio,
      partitionMs,
      partitionNsPerSample,
      anatomyMs,
    } = figure;
    console.log(
      `${String(minutes).padStart(3)} min, ${(fileBytes / 1024).toFixed(0)} kB, ${stings} stings: open ${openMs.toFixed(1)} ms = ${openRatio.toFixed(2)} × limit (${limitMs.toFixed(1)} ms); ` +
        `partition of all ${partitionMs.toFixed(1)} ms = ${partitionNsPerSample.toFixed(0)} ns a sample; one anatomy ${anatomyMs.toFixed(1)} ms`,
    );
  }
}
