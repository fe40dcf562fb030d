import fc from 'fast-check';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packCounts } from '../format/packed-counts';
import { NO_STACK, packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { FORMAT_NAME, FORMAT_VERSION } from '../format/version';
import type { Header } from '../format/header';
import { RecordingBuilder } from '../recording/builder';
import type { Recording } from '../recording/recording';

/** The header of a recording of the boarding desk. */
export function deskHeader(changes: Partial<Header> = {}): Header {
  return {
    kind: 'header',
    format: FORMAT_NAME,
    version: FORMAT_VERSION,
    id: 'boarding',
    startedAt: '2026-11-20T12:40:00.000Z',
    title: 'Boarding desk',
    mode: 'everyday',
    startUp: false,
    clockStepMs: 0.1,
    refreshMs: 16.67,
    target: {
      title: 'Boarding desk',
      url: 'http://localhost:4781/',
      engine: 'Blink 156',
      device: 'computer',
    },
    available: ['event'],
    missing: [],
    ...changes,
  };
}

/** A recording made of a header and these rows. Rows the builder refuses are an error of the test. */
export function recordingOf(rows: readonly Row[], header = deskHeader()): Recording {
  const builder = new RecordingBuilder();
  builder.header(header);
  for (const row of rows) {
    const problem = builder.row(row);
    if (problem !== undefined) throw new Error(`${row.kind}: ${problem}`);
  }
  return builder.build();
}

const micro = (most: number) => fc.integer({ min: 0, max: most * 1000 }).map((us) => us / 1000);
const span = { startMs: micro(2000), durationMs: micro(400) };
const thread = fc.integer({ min: 0, max: 1 });

const task = fc.record({
  kind: fc.constant('task' as const),
  thread,
  ...span,
  source: fc.constant('longtask'),
});
const pause = fc.record({ kind: fc.constant('pause' as const), ...span });
const handler = fc.record({
  kind: fc.constant('handler' as const),
  thread,
  ...span,
  type: fc.constantFrom('event-listener', 'user-callback'),
  invoker: fc.constantFrom('BUTTON#board-all.onclick', 'TimerHandler:setInterval'),
  function: fc.integer({ min: 0, max: 5 }),
  forcedMs: micro(500),
});
const frame = fc
  .record({
    kind: fc.constant('frame' as const),
    thread,
    ...span,
    render: fc.boolean(),
    share: fc.double({ min: 0, max: 1, noNaN: true }),
  })
  .map(({ render, share, ...row }) => {
    const styleStartMs = Math.round((row.startMs + row.durationMs * share) * 1000) / 1000;
    return render ? { ...row, renderStartMs: styleStartMs, styleStartMs } : row;
  });
const render = fc
  .record({
    kind: fc.constant('render' as const),
    thread,
    startMs: micro(2000),
    styleMs: micro(60),
    layoutMs: micro(60),
    paintMs: micro(60),
  })
  .map((row) => ({ ...row, durationMs: row.styleMs + row.layoutMs + row.paintMs }));
const input = fc
  .record({
    kind: fc.constant('input' as const),
    thread,
    ...span,
    type: fc.constantFrom('pointerdown', 'click', 'keydown', 'input', 'mouseover'),
    interaction: fc.integer({ min: 0, max: 6 }),
    waitMs: micro(200),
    handleMs: micro(300),
    target: fc.constantFrom('button “Board all”', 'search field “Search manifest”', ''),
  })
  .map(({ waitMs, handleMs, ...row }) => {
    const processingStartMs = Math.round((row.startMs + waitMs) * 1000) / 1000;
    return {
      ...row,
      processingStartMs,
      processingEndMs: Math.round((processingStartMs + handleMs) * 1000) / 1000,
    };
  });
const samples = fc
  .record({
    thread,
    intervalMs: fc.constantFrom(10, 10, 1),
    gapsUs: fc.array(fc.integer({ min: 0, max: 60_000 }), { minLength: 1, maxLength: 60 }),
    stacks: fc.array(fc.integer({ min: NO_STACK, max: 8 }), { minLength: 60, maxLength: 60 }),
    together: fc.option(fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 60, maxLength: 60 }), {
      nil: undefined,
    }),
  })
  .map(({ thread: onThread, intervalMs, gapsUs, stacks, together }): Row => {
    let timeUs = 0;
    const timesUs = gapsUs.map((gap) => (timeUs += gap));
    return {
      kind: 'samples',
      ...packSamples(onThread, intervalMs, {
        timesUs,
        stacks: stacks.slice(0, timesUs.length),
        together: together?.slice(0, timesUs.length),
      }),
    };
  });

const counts = fc
  .record({ thread, ...span, numbers: fc.array(fc.integer({ min: 1, max: 2 ** 30 }), { maxLength: 6 }) })
  .map(({ numbers, ...row }): Row => {
    const functions = numbers.map((_, id) => id);
    return {
      kind: 'counts',
      ...packCounts(row.thread, row.startMs, row.durationMs, { functions, counts: numbers }),
    };
  });

const calls = fc
  .array(
    fc.record({ gapUs: fc.integer({ min: 0, max: 30_000 }), functionId: fc.integer({ min: -2, max: 7 }) }),
    {
      minLength: 1,
      maxLength: 60,
    },
  )
  .map((steps): Row => {
    let timeUs = 0;
    const timesUs = steps.map(({ gapUs }) => (timeUs += gapUs));
    const functions = steps.map(({ functionId }) => Math.max(functionId, CALL_END));
    return { kind: 'calls', ...packCalls(0, { timesUs, functions }) };
  });

const FUNCTIONS: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'text', file: 'src/deck/trim.ts', text: 'export function computeTrim() {}\n' },
  { kind: 'function', id: 6, name: 'style', activity: 'style' },
  { kind: 'function', id: 7, name: 'layout', activity: 'layout' },
  ...['onBoardAll', 'computeTrim', 'foldAccents', 'render', 'pollDepartures', ''].map((name, id): Row => ({
    kind: 'function',
    id,
    name,
    ...(id === 5 ? {} : { source: 0, line: 1, column: 10 * id + 1 }),
    ...(id === 3 ? { owner: 'library' } : {}),
  })),
];
const STACKS: Row[] = Array.from({ length: 9 }, (_, id): Row => {
  const parent = id < 2 ? undefined : Math.floor(id / 2) - 1;
  const at = id % 3 === 0 ? {} : { line: 10 + id, column: id };
  return { kind: 'stack', id, function: (id * 5) % 6, ...(parent === undefined ? {} : { parent }), ...at };
});

/**
 * Rows of any recording: nested and overlapping work on two threads, gaps, pauses, equal times, spans of no
 * length, missing sources.
 */
export const arbitraryRows: fc.Arbitrary<Row[]> = fc
  .array(fc.oneof(task, pause, handler, frame, render, input, samples, counts, calls), { maxLength: 40 })
  .map((events) => [
    { kind: 'thread', id: 0, name: 'main thread', type: 'main' } as Row,
    ...FUNCTIONS,
    ...STACKS,
    ...(events as Row[]),
    { kind: 'end', startMs: 2500, reason: 'stopped' },
  ]);

/** Any recording. */
export const arbitraryRecording: fc.Arbitrary<Recording> = arbitraryRows.map((rows) => recordingOf(rows));
