import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CALL_END, packCalls } from '../format/packed-calls';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { RecordingBuilder } from './builder';
import { callsOf } from './recording';

const FUNCTIONS: Row[] = ['onBoardAll', 'computeTrim', 'stow'].map((name, id) => ({
  kind: 'function',
  id,
  name,
}));

function recordingOfCalls(events: [timeUs: number, id: number][], more: object = {}) {
  const columns = { timesUs: events.map(([us]) => us), functions: events.map(([, id]) => id) };
  return recordingOf([...FUNCTIONS, { kind: 'calls', ...packCalls(0, columns), ...more }]);
}

/** Events of calls that nest as calls do: each gap, and whether a call begins or the innermost ends. */
const nestedCalls = fc
  .array(fc.record({ gapUs: fc.integer({ min: 0, max: 400 }), id: fc.integer({ min: -2, max: 2 }) }), {
    maxLength: 60,
  })
  .map((steps) => {
    let timeUs = 0;
    return steps.map(({ gapUs, id }): [number, number] => [(timeUs += gapUs), Math.max(id, CALL_END)]);
  });

describe('call spans', () => {
  it('have the stack they were called from, their depth and their time', () => {
    const recording = recordingOfCalls([
      [0, 0],
      [10, 1],
      [20, 2],
      [30, CALL_END],
      [35, 2],
      [40, CALL_END],
      [50, CALL_END],
      [60, CALL_END],
    ]);
    const calls = callsOf(recording, 0);
    const names = Array.from(calls.stacks, (stack) => recording.stacks.path(stack).join('>'));
    expect(names).toEqual(['0', '0>1', '0>1>2', '0>1>2']);
    expect([...calls.depths]).toEqual([0, 1, 2, 2]);
    expect([...calls.endsUs]).toEqual([60, 50, 30, 40]);
    expect(calls.stacks[2]).toBe(calls.stacks[3]);
    expect(calls.openAt(22)).toEqual([0, 1, 2]);
    expect(calls.openAt(33)).toEqual([0, 1]);
  });

  it('that never ended last as long as anything is known of', () => {
    const calls = callsOf(
      recordingOfCalls([
        [0, 0],
        [10, 1],
        [20, CALL_END],
      ]),
      0,
    );
    expect([...calls.endsUs]).toEqual([20, 20]);
  });

  it('are told by the innermost at each moment, without overlap, as a look at every call would', () => {
    fc.assert(
      fc.property(
        nestedCalls,
        fc.integer({ min: 0, max: 6000 }),
        fc.integer({ min: 1, max: 6000 }),
        (events, startUs, lengthUs) => {
          const calls = callsOf(recordingOfCalls(events), 0);
          const [startMs, endMs] = [startUs / 1000, (startUs + lengthUs) / 1000];
          const pieces: [number, number, number][] = [];
          calls.innermost(startMs, endMs, (from, to, stack) => pieces.push([from, to, stack]));
          for (let at = 1; at < pieces.length; at++)
            expect(pieces[at]![0]).toBeGreaterThanOrEqual(pieces[at - 1]![1]);
          for (const [from, to, stack] of pieces) {
            expect(from).toBeGreaterThanOrEqual(startMs);
            expect(to).toBeLessThanOrEqual(endMs);
            const middleUs = ((from + to) / 2) * 1000;
            const around = [...calls.startsUs.keys()].filter(
              (at) => calls.startsUs[at]! <= middleUs && calls.endsUs[at]! > middleUs,
            );
            const deepest = around.reduce((a, b) => (calls.depths[b]! >= calls.depths[a]! ? b : a));
            expect(calls.stacks[deepest]).toBe(stack);
          }
          const covered = pieces.reduce((sum, [from, to]) => sum + to - from, 0);
          let known = 0;
          for (let at = 0; at < calls.length; at++) {
            if (calls.depths[at] !== 0) continue;
            known += Math.max(
              0,
              Math.min(calls.endsUs[at]! / 1000, endMs) - Math.max(calls.startsUs[at]! / 1000, startMs),
            );
          }
          expect(covered).toBeCloseTo(known, 6);
        },
      ),
    );
  });

  it('forget what was open when events were lost', () => {
    const rows = (fresh: boolean): Row[] => [
      ...FUNCTIONS,
      { kind: 'calls', ...packCalls(0, { timesUs: [0, 10], functions: [0, 1] }) },
      {
        kind: 'calls',
        ...packCalls(0, { timesUs: [50, 60], functions: [2, CALL_END] }),
        ...(fresh ? { fresh } : {}),
      },
    ];
    expect([...callsOf(recordingOf(rows(false)), 0).depths]).toEqual([0, 1, 2]);
    const calls = callsOf(recordingOf(rows(true)), 0);
    expect([...calls.depths]).toEqual([0, 1, 0]);
    expect([...calls.endsUs]).toEqual([10, 10, 60]);
  });

  it('take nothing of a row that is damaged or names an unknown function', () => {
    const good: Row[] = [
      ...FUNCTIONS,
      { kind: 'calls', ...packCalls(0, { timesUs: [0, 10, 20], functions: [0, 1, CALL_END] }) },
    ];
    const ending: Row = { kind: 'calls', ...packCalls(0, { timesUs: [90], functions: [CALL_END] }) };
    const bad = packCalls(0, { timesUs: [30, 40, 50, 60], functions: [2, CALL_END, CALL_END, 9] });
    const damaged: Row[] = [
      { kind: 'calls', ...bad },
      { kind: 'calls', ...bad, fresh: true },
      { kind: 'calls', ...packCalls(0, { timesUs: [30, 40], functions: [CALL_END, 2] }), count: 3 },
    ];
    const builder = new RecordingBuilder();
    builder.header(recordingOf([]).header);
    for (const row of good) expect(builder.row(row)).toBeUndefined();
    expect(damaged.map((row) => builder.row(row))).toEqual([
      'function 9 is unknown',
      'function 9 is unknown',
      'packed data does not hold the 3 events that "count" says',
    ]);
    expect(builder.row(ending)).toBeUndefined();
    const calls = callsOf(builder.build(), 0);
    expect(calls).toEqual(callsOf(recordingOf([...good, ending]), 0));
    expect([...calls.endsUs]).toEqual([90, 20]);
  });

  it('are the same whatever is thought of how much is still to be read', () => {
    const rows: Row[] = Array.from({ length: 40 }, (_, row) => ({
      kind: 'calls',
      ...packCalls(0, {
        timesUs: Array.from({ length: 60 }, (_, at) => row * 1000 + at),
        functions: Array.from({ length: 60 }, (_, at) => (at % 2 === 0 ? at % 3 : CALL_END)),
      }),
    }));
    const whole = callsOf(recordingOf([...FUNCTIONS, ...rows]), 0);
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.000001, max: 1, noNaN: true })), (shares) => {
        const builder = new RecordingBuilder();
        builder.header(recordingOf([]).header);
        FUNCTIONS.forEach((row) => builder.row(row));
        rows.forEach((row, at) => builder.row(row, shares[at]));
        const { startsUs, endsUs, stacks, depths } = callsOf(builder.build(), 0);
        expect({ startsUs, endsUs, stacks, depths }).toEqual({
          startsUs: whole.startsUs,
          endsUs: whole.endsUs,
          stacks: whole.stacks,
          depths: whole.depths,
        });
      }),
      { numRuns: 40 },
    );
  });
});
