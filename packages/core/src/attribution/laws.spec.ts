import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { arbitraryRows, recordingOf } from '../testing/arbitrary-recording';
import { end } from '../testing/desk-rows';
import { shiftedRows } from '../testing/shifted-rows';
import { BREAKDOWN_PARTS, breakdownOf, type TimeBreakdown } from './time-breakdown';
import { partition } from './partition';

/** So that nothing is cut at the beginning of a recording. */
const BEGUN_MS = 1000;
const DAY_MS = 86_400_000;
const offsets = fc.constantFrom(DAY_MS / 8, DAY_MS, 30 * DAY_MS);

describe('figures', () => {
  it('do not depend on how long a recording has run', () => {
    fc.assert(
      fc.property(arbitraryRows, offsets, (rows, byMs) => {
        const [now, later] = [BEGUN_MS, BEGUN_MS + byMs].map((ms) => recordingOf(shiftedRows(rows, ms))) as [
          Recording,
          Recording,
        ];
        const range = { startMs: BEGUN_MS, endMs: BEGUN_MS + 2500 };
        const shifted = { startMs: range.startMs + byMs, endMs: range.endMs + byMs };
        const [was, is] = [breakdownOf(partition(now, 0, range)), breakdownOf(partition(later, 0, shifted))];
        for (const part of BREAKDOWN_PARTS) expect(is[part]).toBeCloseTo(was[part], 3);
        const table = (recording: typeof now) =>
          functionTable(recording, WIDE_LENS).sort((a, b) => a.functionId - b.functionId);
        const [before, after] = [table(now), table(later)];
        expect(after.map(({ functionId }) => functionId)).toEqual(before.map(({ functionId }) => functionId));
        after.forEach((row, at) => {
          expect(row.selfMs).toBeCloseTo(before[at]!.selfMs, 3);
          expect(row.totalMs).toBeCloseTo(before[at]!.totalMs, 3);
          expect(row.count).toBe(before[at]!.count);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('stay with their functions after two and a half hours', () => {
    const handlers = Array.from({ length: 200 }, (_, at): Row => ({
      kind: 'handler',
      thread: 0,
      startMs: 9_000_000 + at * 100,
      durationMs: 20,
      type: 'event-listener',
      invoker: 'BUTTON',
      function: at,
    }));
    const functions = handlers.map((_, id): Row => ({ kind: 'function', id, name: `deal${id}`, source: 0 }));
    const source: Row = { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' };
    const table = functionTable(recordingOf([source, ...functions, ...handlers, end(9_100_000)]), WIDE_LENS);
    expect(table).toHaveLength(200);
    for (const { totalMs } of table) expect(totalMs).toBeCloseTo(20, 6);
  });
});

/** What the partition says of each entry of the main thread that stands alone. */
function blamesOfHandlers(rows: readonly Row[], withSamples: boolean): TimeBreakdown[] {
  const recording = recordingOf(withSamples ? rows : rows.filter(({ kind }) => kind !== 'samples'));
  return [...recording.events.handler.rows()]
    .filter(({ thread }) => thread === 0)
    .map(({ startMs, durationMs }) =>
      breakdownOf(partition(recording, 0, { startMs, endMs: startMs + durationMs })),
    );
}

describe('a weaker source', () => {
  it('never changes what a stronger one measured: samples leave every entry its script, layout and paint', () => {
    fc.assert(
      fc.property(arbitraryRows, (rows) => {
        const [with_, without] = [blamesOfHandlers(rows, true), blamesOfHandlers(rows, false)];
        with_.forEach((blame, at) => {
          const script = (one: TimeBreakdown) => one.scriptOwnMs + one.scriptLibraryMs;
          expect(script(blame)).toBeCloseTo(script(without[at]!), 6);
          for (const part of ['styleMs', 'layoutMs', 'paintMs', 'dialogMs'] as const)
            expect(blame[part]).toBeCloseTo(without[at]![part], 6);
        });
      }),
    );
  });

  it('finds no sting where the thread was timed as free: samples widen nothing', () => {
    const quick = Array.from({ length: 300 }, (_, at): Row => ({
      kind: 'handler',
      thread: 0,
      startMs: at * 16 + 3,
      durationMs: 4,
      type: 'user-callback',
      invoker: 'FrameRequestCallback',
      function: 0,
    }));
    const rows: Row[] = [
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'drawTide', source: 0 },
      ...quick,
      end(5000),
    ];
    expect(findStings(recordingOf(rows), DEFAULT_THRESHOLDS)).toEqual([]);
  });
});
