import { describe, expect, it } from 'vitest';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { simulatedRun } from '../testing/simulated-sampling';
import { partition } from './partition';

/** Enough handlers for some 4,000 samples: what is left of chance is well below the 2 % that are asked for. */
const SAMPLES = 4000;

describe('samples in timed entries', () => {
  it.each([0.5, 2, 5, 7, 10, 13, 15, 20, 25, 40, 55, 60])(
    'give every function of handlers of %d ms its time to two hundredths in expectation, wherever in them it runs',
    (handlerMs) => {
      const shares = [0.2, 0.5, 0.3];
      const { recording, trueMs } = simulatedRun(handlerMs, shares, Math.ceil((SAMPLES * 10) / handlerMs));
      const told = new Map(functionTable(recording, WIDE_LENS).map((row) => [row.functionId, row]));
      for (const id of [1, 2, 3]) {
        expect(told.get(id)!.selfMs / trueMs[id]!).toBeGreaterThan(0.98);
        expect(told.get(id)!.selfMs / trueMs[id]!).toBeLessThan(1.02);
      }
      expect(told.get(0)!.totalMs).toBeCloseTo(
        trueMs.reduce((sum, ms) => sum + ms, 0),
        3,
      );
    },
  );

  it('never make an entry longer than it was timed', () => {
    const { recording } = simulatedRun(0.5, [1], 2000);
    const row = functionTable(recording, WIDE_LENS).find(({ functionId }) => functionId === 0)!;
    expect(row.longestMs).toBeCloseTo(0.5, 6);
    expect(row.totalMs).toBeCloseTo(1000, 3);
  });

  it('say nothing of entries of which nobody looked at the time around', () => {
    const handler = (startMs: number): Row => ({
      kind: 'handler',
      thread: 0,
      startMs,
      durationMs: 8,
      type: 'event-listener',
      invoker: 'BUTTON',
      function: 0,
    });
    const recording = recordingOf([
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
      { kind: 'function', id: 1, name: 'computeTrim', source: 0 },
      { kind: 'stack', id: 0, function: 0 },
      { kind: 'stack', id: 1, function: 1, parent: 0 },
      handler(10),
      handler(5000),
      { kind: 'samples', ...packSamples(0, 10, { timesUs: [4000, 14_000, 24_000], stacks: [-1, 1, -1] }) },
    ]);
    const [piece, ...others] = [...partition(recording, 0, { startMs: 5000, endMs: 5008 })];
    expect(others).toEqual([]);
    expect(piece).toMatchObject({ stack: -1, entry: 0, certainty: 'measured', activity: 'script' });
  });
});
