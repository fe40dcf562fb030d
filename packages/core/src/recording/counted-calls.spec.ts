import { describe, expect, it } from 'vitest';
import { packCounts } from '../format/packed-counts';
import type { Row } from '../format/rows';
import { callsOfRow, functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, end } from '../testing/desk-rows';
import { countedBetween, countedCalls } from './counted-calls';

const counted = (startMs: number, counts: number[]): Row => ({
  kind: 'counts',
  ...packCounts(0, startMs, 1000, { functions: counts.map((_, id) => id), counts }),
});
const recording = recordingOf([
  ...deskFunctions('foldAccents', 'wordsOf'),
  { kind: 'function', id: 2, name: 'foldAccents', sameAs: 0 },
  counted(0, [400, 0, 2]),
  counted(1000, [100, 50]),
  end(2000),
]);
const callsIn = (startMs: number, endMs: number) => countedCalls(recording, 0, { startMs, endMs });

describe('calls that were counted', () => {
  it('are added up by function, those that are the same one together', () => {
    expect(callsIn(0, 2000)).toEqual({
      calls: new Map([
        [0, 502],
        [1, 50],
      ]),
      isWhole: true,
    });
  });

  it('are shared out evenly where a range cuts what was counted at once, and that is told', () => {
    expect(callsIn(500, 1000)).toMatchObject({ isWhole: false });
    expect(callsIn(500, 1000).calls.get(0)).toBe(201);
  });

  it('are at least those counted within a range, and at most those counted while it lasted', () => {
    const between = (startMs: number, endMs: number) => countedBetween(recording, 0, { startMs, endMs }, 0);
    expect(between(0, 2000)).toEqual({ least: 502, most: 502 });
    expect(between(500, 2000)).toEqual({ least: 100, most: 502 });
    expect(between(1200, 1300)).toEqual({ least: 0, most: 100 });
    expect(between(1000, 1000)).toEqual({ least: 0, most: 0 });
  });

  it('stand in the table of functions, of those too that no sample saw, and in no place of exact calls', () => {
    const rows = functionTable(recording, WIDE_LENS);
    expect(rows.map((row) => [row.functionId, callsOfRow(row), row.count])).toEqual([
      [0, 502, 0],
      [1, 50, 0],
    ]);
    expect(rows[0]!.callsPerSecond).toBe(251);
  });
});
