/** What is measured of the core on one recording; each figure is the median of some rounds. */
import { gunzipSync } from 'node:zlib';
import * as core from '../../packages/server/dist/index.js';
import { profileOf } from './profile.mjs';
import { medianOf } from './statistics.mjs';

const RANGES = [
  [0, 1],
  [0.2, 0.7],
  [0.5, 0.51],
];
/** A ratio, nanoseconds a span, milliseconds. */
export const TARGETS = { openRatio: 2.5, blameNs: 12, treeNs: 40, callersNs: 40, tableNs: 40, drawMs: 6 };
const PIXELS = 1200;
const DEPTHS = 20;

function medianMs(rounds, work) {
  return medianOf(
    Array.from({ length: rounds }, () => {
      const startedAt = performance.now();
      work();
      return performance.now() - startedAt;
    }),
  );
}

/** The bytes of all columns of calls of a recording, and of what is looked up beside them. */
function bytesOf(recording) {
  const { startsUs, endsUs, stacks, depths } = recording.calls.get(0);
  const columns = [startsUs, endsUs, stacks, depths].reduce((sum, column) => sum + column.byteLength, 0);
  const drawing = 12 * startsUs.length;
  return columns + drawing + recording.stacks.length * 4 * 8;
}

function measureOpening(file, rounds) {
  const limits = [];
  const opens = [];
  let recording;
  for (let round = 0; round < rounds; round++) {
    let startedAt = performance.now();
    for (const line of gunzipSync(file).toString('utf8').split('\n')) if (line !== '') JSON.parse(line);
    limits.push(performance.now() - startedAt);
    startedAt = performance.now();
    ({ recording } = core.readRecording([gunzipSync(file)]));
    core.findStings(recording, core.DEFAULT_THRESHOLDS);
    opens.push(performance.now() - startedAt);
  }
  const ratios = opens.map((open, round) => open / limits[round]);
  return { recording, limitMs: medianOf(limits), openMs: medianOf(opens), openRatio: medianOf(ratios) };
}

/** Where the time of opening goes, step by step, on one recording more. Milliseconds. */
function openingParts(file) {
  const parts = {};
  const timed = (name, work) => {
    const startedAt = performance.now();
    const result = work();
    parts[name] = performance.now() - startedAt;
    return result;
  };
  const bytes = timed('decompress', () => gunzipSync(file));
  const sink = { header: () => undefined, row: () => undefined, unknown: () => undefined };
  timed('lines, checksums, JSON, shapes', () => {
    const decoder = new core.RecordingDecoder(sink);
    decoder.push(bytes);
    decoder.finish();
  });
  const { recording } = timed('the same and columns, calls unpacked', () => core.readRecording([bytes]));
  timed('interactions', () => core.interactionsOf(recording));
  timed('who ran when, outside exact calls', () => core.callLogOf(recording, 0));
  timed('detectors', () => core.findStings(recording, core.DEFAULT_THRESHOLDS));
  return parts;
}

/** Exact calls a second that a builder takes in, chunk by chunk as they stream. */
function measureLive(file) {
  const rows = gunzipSync(file)
    .toString('utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line));
  const builder = new core.RecordingBuilder();
  let calls = 0;
  const startedAt = performance.now();
  for (const row of rows) {
    if (row.kind === 'header') builder.header(row);
    else builder.row(row);
    if (row.kind === 'calls') calls += row.count / 2;
  }
  return calls / ((performance.now() - startedAt) / 1000);
}

/** @returns the figures of one recording: times in milliseconds, and nanoseconds a span in the range */
export function measureCore(file, spans, rounds) {
  const { recording, ...opening } = measureOpening(file, rounds);
  const { endMs } = recording.range;
  const calls = recording.calls.get(0);
  const ranges = RANGES.map(([from, to]) => ({ startMs: from * endMs, endMs: to * endMs }));
  const spansIn = ({ startMs, endMs: end }) => calls.firstFrom(end * 1000) - calls.firstFrom(startMs * 1000);
  const worstNs = (work) =>
    Math.max(
      ...ranges.map((range) => (medianMs(rounds, () => work(range)) * 1e6) / Math.max(1, spansIn(range))),
    );
  const lenses = [
    core.WIDE_LENS,
    { ...core.WIDE_LENS, foldLibraries: true, foldRecursion: true, minMs: 0.01 },
    { ...core.WIDE_LENS, focus: 3 },
  ];
  // Each time another range, as what one view has added up of a range is there for the next.
  let asked = 0;
  const another = (lens) => ({ ...lens, range: [++asked / 1000, endMs] });
  const underLenses = (work) => {
    const whole = Math.max(1, calls.length);
    return Math.max(...lenses.map((lens) => (medianMs(rounds, () => work(another(lens))) * 1e6) / whole));
  };
  const drawn = new core.CallLodIndex(recording, calls);
  const zooms = [1, 0.1, 0.01, 0.0001];
  const drawMs = Math.max(
    ...zooms.map((zoom) => {
      const startMs = endMs * 0.3;
      return medianMs(rounds * 3, () =>
        drawn.draw({ startMs, endMs: startMs + endMs * 0.7 * zoom }, PIXELS, DEPTHS),
      );
    }),
  );
  const trees = {
    treeNs: (lens) => core.callTree(recording, lens),
    callersNs: (lens) => core.callersTree(recording, lens).roots(),
    tableNs: (lens) => core.functionTable(recording, lens),
  };
  const startedAt = performance.now();
  core.rangeBreakdown(recording, 0, { startMs: 0, endMs });
  const blameFirstNs = ((performance.now() - startedAt) * 1e6) / Math.max(1, calls.length);
  const measured = {
    openRatio: opening.openRatio,
    blameNs: worstNs((range) => core.rangeBreakdown(recording, 0, range)),
    ...Object.fromEntries(Object.entries(trees).map(([name, work]) => [name, underLenses(work)])),
    drawMs,
  };
  const again = (times, work) => () => {
    for (let time = 0; time < times; time++) work();
  };
  const works = {
    openRatio: again(3, () =>
      core.findStings(core.readRecording([gunzipSync(file)]).recording, core.DEFAULT_THRESHOLDS),
    ),
    blameNs: again(5, () => ranges.forEach((range) => core.rangeBreakdown(recording, 0, range))),
    ...Object.fromEntries(
      Object.entries(trees).map(([name, work]) => [name, again(5, () => lenses.map(another).forEach(work))]),
    ),
    drawMs: again(40, () => drawn.draw({ startMs: endMs * 0.3, endMs }, PIXELS, DEPTHS)),
  };
  const missed = Object.keys(TARGETS).filter((name) => measured[name] > TARGETS[name]);
  return {
    spans,
    fileBytes: file.length,
    ...opening,
    ...measured,
    blameFirstNs,
    partitionNs: worstNs((range) => core.partition(recording, 0, range)),
    profiles: Object.fromEntries(missed.map((name) => [name, profileOf(works[name])])),
    bytesASpan: bytesOf(recording) / calls.length,
    callsASecond: measureLive(file),
    openingParts: openingParts(file),
  };
}
