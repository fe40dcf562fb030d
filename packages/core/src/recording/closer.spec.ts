import { expect, it } from 'vitest';
import { partition } from '../attribution/partition';
import { callTree } from '../calls/call-tree';
import { callsOfRow, functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { occurrencesOf } from '../calls/occurrences';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packCounts } from '../format/packed-counts';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { linesReport } from '../report/calls-report';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, deskRun, end } from '../testing/desk-rows';
import { closerOf } from './closer';

const FILE = 'src/desk/deck/trim.ts';
const [BOARD, TRIM, PAIR] = [0, 1, 2];
const placed = (id: number, name: string, line: number, more: object = {}): Row => ({
  kind: 'function',
  ...{ id, name, source: 0, originalFile: FILE, originalLine: line, originalColumn: 1 },
  ...more,
});

/** onBoardAll runs from 0 to 20; computeTrim, looked at closer, from 5 to 15 and in it bendingOfPair from 8 to 12. */
const recording = recordingOf(
  [
    ...deskFunctions(),
    placed(BOARD, 'onBoardAll', 2),
    placed(TRIM, 'computeTrim', 10, { closer: true }),
    placed(PAIR, 'bendingOfPair', 24),
    { kind: 'stack', id: 0, function: BOARD, line: 3, column: 1 },
    { kind: 'stack', id: 1, function: TRIM, parent: 0, line: 12, column: 1 },
    { kind: 'stack', id: 2, function: PAIR, parent: 1, line: 26, column: 1 },
    { kind: 'stack', id: 3, function: PAIR, parent: 1, line: 27, column: 1 },
    deskRun(0, 20, BOARD),
    {
      kind: 'samples',
      ...packSamples(0, 1, {
        timesUs: Array.from({ length: 20 }, (_, at) => at * 1000 + 500),
        stacks: Array.from({ length: 20 }, (_, at) =>
          at < 5 || at >= 15 ? 0 : at < 8 || at >= 12 ? 1 : at < 11 ? 2 : 3,
        ),
        together: Array(20).fill(5),
      }),
    },
    {
      kind: 'calls',
      ...packCalls(0, {
        timesUs: [5000, 5000, 8000, 12_000, 15_000, 15_000],
        functions: [BOARD, TRIM, PAIR, CALL_END, CALL_END, CALL_END],
      }),
    },
    { kind: 'counts', ...packCounts(0, 0, 20, { functions: [BOARD, TRIM, PAIR], counts: [1, 1, 9] }) },
    end(20),
  ],
  deskHeader({ fine: true }),
);
const rowOf = (functionId: number) =>
  functionTable(recording, WIDE_LENS).find((row) => row.functionId === functionId)!;

it('its calls and what they call are exact; what stands around them was not called then', () => {
  const [root] = callTree(recording, WIDE_LENS).roots();
  expect(root).toMatchObject({ functionId: BOARD, totalMs: 20, selfMs: 10, count: 0 });
  const [trim] = callTree(recording, WIDE_LENS).children(root!.node);
  expect(trim).toMatchObject({ functionId: TRIM, totalMs: 10, selfMs: 6, count: 1 });
  expect(callTree(recording, WIDE_LENS).children(trim!.node)).toMatchObject([
    { functionId: PAIR, totalMs: 4, count: 1 },
  ]);
});

it('all calls are told, and how sure a time is where samples tell it', () => {
  expect([BOARD, TRIM, PAIR].map((id) => callsOfRow(rowOf(id)))).toEqual([1, 1, 9]);
  expect(rowOf(TRIM).selfErrorMs).toBe(0);
  // Ten samples, of which five at a time came of one measurement.
  expect(rowOf(BOARD).selfErrorMs).toBeGreaterThan(Math.sqrt(10 * 5));
});

it('how long calls took is told of exact calls, and of others as samples saw them', () => {
  expect(occurrencesOf(recording, WIDE_LENS, TRIM)).toMatchObject({
    exact: true,
    startsMs: Float64Array.of(5),
  });
  expect(occurrencesOf(recording, WIDE_LENS, BOARD).exact).toBe(false);
});

it('samples give the lines of what was timed exactly', () => {
  const lines = linesReport(recording, WIDE_LENS).map(({ line, selfMs }) => [line, selfMs]);
  expect(lines).toEqual(
    expect.arrayContaining([
      [3, 10],
      [12, 6],
      [26, 3],
      [27, 1],
    ]),
  );
});

/** On line 12 computeTrim calls bendingOfPair, on line 13 weightOf; both call leverOf, too short for a sample, all the time. */
it('samples give the lines of calls too short to be seen themselves, and of what ran between these', () => {
  const [WEIGHT, LEVER] = [3, 4];
  const timesUs: number[] = [0];
  const functions: number[] = [TRIM];
  for (let ms = 0; ms < 20; ms++) {
    const called = ms < 12 ? PAIR : WEIGHT;
    for (const part of [0, 300, 600]) {
      timesUs.push(...[0, 20, 220, 280].map((us) => ms * 1000 + part + us));
      functions.push(called, LEVER, CALL_END, CALL_END);
    }
  }
  timesUs.push(20_000);
  functions.push(CALL_END);
  const seen = recordingOf(
    [
      ...deskFunctions(),
      placed(TRIM, 'computeTrim', 10, { closer: true }),
      placed(PAIR, 'bendingOfPair', 24),
      placed(WEIGHT, 'weightOf', 34),
      placed(LEVER, 'leverOf', 44),
      { kind: 'stack', id: 1, function: TRIM, line: 12, column: 1 },
      { kind: 'stack', id: 2, function: PAIR, parent: 1, line: 26, column: 1 },
      { kind: 'stack', id: 3, function: TRIM, line: 13, column: 1 },
      { kind: 'stack', id: 4, function: WEIGHT, parent: 3, line: 36, column: 1 },
      deskRun(0, 20, TRIM),
      {
        kind: 'samples',
        ...packSamples(0, 1, {
          timesUs: Array.from({ length: 20 }, (_, at) => at * 1000 + 560),
          stacks: Array.from({ length: 20 }, (_, at) => (at < 12 ? 2 : 4)),
        }),
      },
      { kind: 'calls', ...packCalls(0, { timesUs, functions }) },
      end(20),
    ],
    deskHeader({ fine: true }),
  );
  const totals = new Map(linesReport(seen, WIDE_LENS).map(({ line, totalMs }) => [line, totalMs]));
  expect(totals.get(12)).toBeCloseTo(12);
  expect(totals.get(13)).toBeCloseTo(8);
  expect(totals.get(44)).toBeCloseTo(20 * 0.6);
});

it('a range is covered whole, whichever way it is known', () => {
  const segments = [...partition(recording, 0, { startMs: 2, endMs: 18 })];
  expect(segments.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0)).toBe(16);
});

it('is nothing where no function was looked at closer', () => {
  expect(closerOf(recordingOf([...deskFunctions('onBoardAll'), end(5)]))).toBeUndefined();
});
