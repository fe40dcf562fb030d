import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { arbitraryRecording, recordingOf } from '../testing/arbitrary-recording';
import { deskRun } from '../testing/desk-rows';
import { BREAKDOWN_PARTS, breakdownOf } from './time-breakdown';
import { rangeBreakdown } from './range-breakdown';
import { culpritsOf } from '../explanation/culprits';
import { partition } from './partition';

const arbitraryRange = fc
  .tuple(fc.integer({ min: -50_000, max: 2_600_000 }), fc.integer({ min: 0, max: 900_000 }))
  .map(([startUs, lengthUs]) => ({ startMs: startUs / 1000, endMs: (startUs + lengthUs) / 1000 }));

describe('the partition of a range', () => {
  it('is ordered, without gap or overlap, and sums to the range', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryRange, (recording, range) => {
        let at = range.startMs;
        for (const segment of partition(recording, 0, range)) {
          expect(segment.startMs).toBe(at);
          expect(segment.endMs).toBeGreaterThan(segment.startMs);
          at = segment.endMs;
        }
        expect(at).toBe(Math.max(range.startMs, range.endMs));
        expect(breakdownOf(partition(recording, 0, range)).totalMs).toBeCloseTo(
          range.endMs - range.startMs,
          6,
        );
      }),
    );
  });

  it('gives the same sums by function as its segments one by one', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryRange, (recording, range) => {
        const segments = partition(recording, 0, range);
        const byFunction = (culprits: ReturnType<typeof culpritsOf>) =>
          new Map(culprits.map(({ functionId, ...figures }) => [functionId, figures]));
        const [summed, single] = [segments, [...segments]].map((some) =>
          byFunction(culpritsOf(recording, some)),
        );
        expect([...summed!.keys()].sort()).toEqual([...single!.keys()].sort());
        for (const [functionId, figures] of summed!) {
          const { chargedMs, selfMs, totalMs, inferredMs, exactMs, entryMs } = single!.get(functionId)!;
          expect(figures.chargedMs).toBeCloseTo(chargedMs, 6);
          expect(figures.selfMs).toBeCloseTo(selfMs, 6);
          expect(figures.totalMs).toBeCloseTo(totalMs, 6);
          expect(figures.inferredMs).toBeCloseTo(inferredMs, 6);
          expect(figures.exactMs).toBeCloseTo(exactMs, 6);
          expect(figures.entryMs).toBeCloseTo(entryMs, 6);
        }
      }),
    );
  });

  it('adds up with that of the range that adjoins', () => {
    fc.assert(
      fc.property(
        arbitraryRecording,
        arbitraryRange,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (recording, range, share) => {
          const middleMs = range.startMs + (range.endMs - range.startMs) * share;
          const whole = breakdownOf(partition(recording, 0, range));
          const first = breakdownOf(partition(recording, 0, { ...range, endMs: middleMs }));
          const second = breakdownOf(partition(recording, 0, { ...range, startMs: middleMs }));
          for (const part of ['totalMs', ...BREAKDOWN_PARTS] as const) {
            expect(first[part] + second[part]).toBeCloseTo(whole[part], 6);
          }
        },
      ),
    );
  });

  it('has the blame that is found without making it', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryRange, (recording, { startMs, endMs }) => {
        const range = {
          startMs: Math.max(0, startMs),
          endMs: Math.min(recording.range.endMs, Math.max(startMs, endMs, 0)),
        };
        if (range.endMs <= range.startMs) return;
        const whole = breakdownOf(partition(recording, 0, range));
        const quick = rangeBreakdown(recording, 0, range);
        for (const part of ['totalMs', ...BREAKDOWN_PARTS] as const)
          expect(quick[part]).toBeCloseTo(whole[part], 6);
      }),
    );
  });

  it('charges every moment with known code to one function', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryRange, (recording, range) => {
        const segments = [...partition(recording, 0, range)];
        const known = segments.filter(({ stack, entry }) => stack >= 0 || entry >= 0);
        const knownMs = known.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
        const charged = culpritsOf(recording, segments).reduce((sum, { chargedMs }) => sum + chargedMs, 0);
        expect(charged).toBeCloseTo(knownMs, 6);
      }),
    );
  });
});

const FUNCTIONS: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
  { kind: 'function', id: 1, name: 'computeTrim', source: 0 },
  { kind: 'function', id: 2, name: 'sum', source: 0, owner: 'library' },
  { kind: 'stack', id: 0, function: 0 },
  { kind: 'stack', id: 1, function: 1, parent: 0 },
  { kind: 'stack', id: 2, function: 2, parent: 1 },
];
const END: Row = { kind: 'end', startMs: 400, reason: 'stopped' };
const HANDLER = deskRun(100, 100, 0, { type: 'event-listener', invoker: 'BUTTON' });
const sampled = (...pairs: [number, number][]): Row => ({
  kind: 'samples',
  ...packSamples(0, 10, { timesUs: pairs.map(([ms]) => ms * 1000), stacks: pairs.map(([, stack]) => stack) }),
});
const blame = (rows: Row[], startMs = 0, endMs = 300) =>
  breakdownOf(partition(recordingOf([...FUNCTIONS, ...rows, END]), 0, { startMs, endMs }));

describe('what the partition concludes', () => {
  it('takes an entry into script for script, whatever the samples around it say', () => {
    expect(blame([HANDLER, sampled([105, 1])], 100, 200)).toMatchObject({ scriptOwnMs: 100, totalMs: 100 });
  });

  it('gives a library its own part', () => {
    const every20 = sampled([90, -1], [110, 1], [130, 1], [150, 2], [170, 1], [190, 1], [210, -1]);
    expect(blame([HANDLER, every20], 100, 200)).toMatchObject({
      scriptOwnMs: 80,
      scriptLibraryMs: 20,
    });
  });

  it('takes the known amount of forced layout from script', () => {
    expect(blame([{ ...HANDLER, forcedMs: 30 } as Row, sampled([120, 1])], 100, 200)).toMatchObject({
      scriptOwnMs: 70,
      layoutMs: 30,
    });
  });

  it('says idle only where a sample saw it idle, and unexplained where nobody looked', () => {
    const { idleMs, unexplainedMs } = blame([sampled([50, -1], [60, -1])]);
    expect(idleMs).toBe(50);
    expect(unexplainedMs).toBe(250);
  });

  it('says unexplained where the thread was busy without script', () => {
    const task: Row = { kind: 'task', thread: 0, startMs: 40, durationMs: 60, source: 'longtask' };
    const { unexplainedMs, idleMs } = blame(
      [task, sampled([30, -1], [40, -1], [50, -1], [60, -1], [70, -1], [80, -1], [90, -1], [100, -1])],
      30,
      110,
    );
    expect(unexplainedMs).toBe(60);
    expect(idleMs).toBe(20);
  });

  it('takes what follows the style step of a frame for drawing', () => {
    const frame: Row = {
      kind: 'frame',
      thread: 0,
      startMs: 100,
      durationMs: 80,
      renderStartMs: 150,
      styleStartMs: 155,
    };
    expect(blame([frame], 100, 180)).toMatchObject({ drawingMs: 25, unexplainedMs: 55 });
  });

  it('names the function seen around it where the engine gave no stack, and calls it inferred', () => {
    const recording = recordingOf([...FUNCTIONS, HANDLER, sampled([110, 1], [120, -1], [130, -1], [140, 0])]);
    const segments = [...partition(recording, 0, { startMs: 100, endMs: 200 })];
    expect(segments.map(({ stack, certainty }) => [stack, certainty])).toEqual([
      [1, 'sampled'],
      [1, 'inferred'],
      [0, 'sampled'],
    ]);
  });

  it('takes the dispatch of an event for busy, never for idle', () => {
    const click: Row = {
      kind: 'input',
      thread: 0,
      startMs: 0,
      durationMs: 60,
      type: 'click',
      processingStartMs: 10,
      processingEndMs: 50,
    };
    const { unexplainedMs, idleMs } = blame(
      [click, sampled([0, -1], [10, -1], [20, -1], [30, -1], [40, -1], [50, -1], [60, -1])],
      0,
      60,
    );
    expect([unexplainedMs, idleMs]).toEqual([40, 20]);
  });

  it('takes a paused stretch for unexplained', () => {
    expect(blame([HANDLER, { kind: 'pause', startMs: 150, durationMs: 150 }], 100, 300)).toMatchObject({
      scriptOwnMs: 50,
      unexplainedMs: 150,
    });
  });
});

describe('culprits', () => {
  it('charge library time to the own function that called it', () => {
    const every20 = sampled([90, -1], [110, 1], [130, 1], [150, 2], [170, 1], [190, 1], [210, -1]);
    const recording = recordingOf([...FUNCTIONS, HANDLER, every20]);
    const [first, ...others] = culpritsOf(recording, partition(recording, 0, { startMs: 100, endMs: 200 }));
    expect(first).toMatchObject({
      functionId: 1,
      selfMs: 80,
      attributedMs: 20,
      chargedMs: 100,
      savedMs: 100,
    });
    expect(others).toEqual([]);
  });
});
