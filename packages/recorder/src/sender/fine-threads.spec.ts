import {
  FIRST_EXACT_FUNCTION,
  packPositions,
  unpackCounts,
  unpackSamples,
  type Row,
  type RowOfKind,
} from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { SAME } from '../page/fine/stack-samples';
import { CallPacker } from './call-packer';
import { FineThreads } from './fine-threads';
import { SampledTablesOfRecordings } from './sampled-tables-of';

const FIRST = FIRST_EXACT_FUNCTION;
const FUNCTIONS = 3;
const LINE_26 = FIRST + FUNCTIONS;
const LINE_27 = LINE_26 + 1;
const OF_DESK = { recordingId: 'friday', thread: 0, originMs: 1000 };

let rows: Row[];
let threads: FineThreads;

beforeEach(() => {
  rows = [];
  const calls = new CallPacker();
  calls.register(
    FIRST,
    JSON.stringify({
      url: 'http://localhost/desk.js',
      files: ['src/desk/deck/trim.ts'],
      functions: [
        ['desk.js', 0, 1, 1, 0],
        ['computeTrim', 0, 10, 1, 0],
        ['bendingOf', 0, 24, 1, 0],
      ],
      positions: packPositions([
        { functionIndex: 2, line: 26, column: 5 },
        { functionIndex: 2, line: 27, column: 5 },
      ]),
    }),
  );
  threads = new FineThreads(calls, new SampledTablesOfRecordings(), (_id, more) => rows.push(...more));
});
afterEach(() => threads.end());

const ofKind = <Kind extends Row['kind']>(kind: Kind) =>
  rows.filter((row): row is RowOfKind<Kind> => row.kind === kind);
const looks = (timesMs: number[], stacks: number[], together?: number[]) =>
  threads.take({
    type: 'looks',
    ...OF_DESK,
    timesMs: Float64Array.from(timesMs),
    stacks: Int32Array.from(stacks),
    together: together && Uint32Array.from(together),
  });

describe('what threads tell in fine mode', () => {
  it('puts samples in order of time that were held back until it was known where they stand', () => {
    looks([1003, 1001, 1002, 1004], [1, LINE_27, 1, LINE_26, SAME, 1, LINE_27], [9, 1, 1, 8]);
    const [row] = ofKind('samples');
    const { timesUs, stacks, together } = unpackSamples(row!);
    expect(timesUs).toEqual([1000, 2000, 3000, 4000]);
    expect(together).toEqual([1, 1, 9, 8]);
    expect([stacks[0], stacks[2]]).toEqual([stacks[1], stacks[3]]);
    expect(stacks[0]).not.toBe(stacks[2]);
  });

  it('looks up of a stack only what it has not in common with the one before, however deep it is', () => {
    const deep = Array.from({ length: 20_000 }, () => FIRST + 1);
    const ends = [LINE_26, LINE_27];
    const lookedUp = vi.spyOn(CallPacker.prototype, 'positionOf');
    looks([1001], [deep.length, ...deep]);
    const first = lookedUp.mock.calls.length;
    expect(first).toBeGreaterThanOrEqual(deep.length);
    for (let sample = 0; sample < 50; sample++)
      looks([1002 + sample], [deep.length, ...deep.slice(1), ends[sample % 2]!]);
    expect(lookedUp.mock.calls.length - first).toBeLessThanOrEqual(2 * 50);
    lookedUp.mockRestore();
    const stacks = ofKind('stack');
    expect(stacks).toHaveLength(deep.length + 2);
    const ids = ofKind('samples').flatMap((row) => [...unpackSamples(row).stacks]);
    expect(new Set(ids).size).toBe(3);
    expect(ids[1]).toBe(ids[3]);
  });

  it('becomes samples with stacks that know their lines, each told of once', () => {
    looks([1001, 1002, 1003], [2, FIRST + 1, LINE_26, SAME, 2, FIRST + 1, LINE_27]);
    looks([1004], [2, FIRST + 1, LINE_26]);
    expect(ofKind('function').map(({ name }) => name)).toEqual(['computeTrim', 'bendingOf']);
    expect(ofKind('stack').map(({ function: of, line, column }) => [of - FIRST, line, column])).toEqual([
      [1, undefined, undefined],
      [2, 26, 5],
      [2, 27, 5],
    ]);
    const [root, inner26, inner27] = ofKind('stack').map(({ id }) => id);
    expect(ofKind('stack')[1]!.parent).toBe(root);
    const sampled = ofKind('samples').map(unpackSamples);
    expect(sampled.map(({ timesUs }) => timesUs)).toEqual([[1000, 2000, 3000], [4000]]);
    expect(sampled.map(({ stacks }) => stacks)).toEqual([[inner26, inner26, inner27], [inner26]]);
  });

  it('becomes counts, with the functions they are of', () => {
    threads.take({
      type: 'counts',
      ...OF_DESK,
      sinceMs: 1000,
      untilMs: 2000,
      ids: Int32Array.of(FIRST + 2),
      counts: Int32Array.of(44_850),
    });
    expect(ofKind('counts').map(unpackCounts)).toEqual([{ functions: [FIRST + 2], counts: [44_850] }]);
    expect(ofKind('counts')[0]).toMatchObject({ startMs: 0, durationMs: 1000 });
    expect(ofKind('function').map(({ name }) => name)).toEqual(['bendingOf']);
  });

  it('tells where a thread stood last, for a hang that goes on', () => {
    looks([1001], [2, FIRST + 1, LINE_27]);
    const { stack } = threads.stackRows('friday', threads.openPositions());
    expect(ofKind('stack').find(({ id }) => id === stack)).toMatchObject({ line: 27 });
  });

  it('is sampled from outside where memory is shared, while the thread itself does nothing for it', async () => {
    const calls = new Int32Array(new SharedArrayBuffer(4 * 2 ** 16));
    calls.set([2, FIRST + 1, LINE_26]);
    const originMs = performance.now();
    threads.take({
      type: 'open-positions',
      ...OF_DESK,
      originMs,
      clockOrigin: performance.timeOrigin,
      calls,
    });
    expect(threads.openPositions()).toEqual([FIRST + 1, LINE_26]);
    await new Promise((resolve) => setTimeout(resolve, 200));
    calls[0] = 0;
    await new Promise((resolve) => setTimeout(resolve, 200));
    threads.end();
    const line26 = ofKind('stack').find(({ line }) => line === 26)!.id;
    const seen = ofKind('samples').flatMap((row) => unpackSamples(row).stacks);
    expect(seen.filter((stack) => stack === line26).length).toBeGreaterThan(20);
    expect(seen.filter((stack) => stack === -1).length).toBeLessThanOrEqual(1);
  });
});
