import { describe, expect, it } from 'vitest';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { CALL_END, packCalls } from '../format/packed-calls';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { end } from '../testing/desk-rows';
import { functionIdentities } from './function-identities';

const SOURCE: Row = { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js', exact: true };
const timer = (startMs: number, durationMs: number, functionId: number): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'user-callback',
  invoker: 'TimerHandler:setTimeout',
  function: functionId,
});
const calls = (...spans: [startMs: number, endMs: number, functionId: number][]): Row => ({
  kind: 'calls',
  ...packCalls(0, {
    timesUs: spans.flatMap(([startMs, endMs]) => [startMs * 1000, endMs * 1000]),
    functions: spans.flatMap(([, , functionId]) => [functionId, CALL_END]),
  }),
});

describe('a function that was bound', () => {
  const placed = (id: number, line: number): Row => ({
    kind: 'function',
    id,
    name: 'onSail',
    source: 0,
    line,
    column: 3,
  });
  const bound: Row = { kind: 'function', id: 9, name: 'bound onSail' };

  it('is the one function with a place that has its name, and nobody where there are two', () => {
    expect([...functionIdentities(recordingOf([SOURCE, placed(0, 4), bound]))]).toEqual([[9, 0]]);
    expect([...functionIdentities(recordingOf([SOURCE, placed(0, 4), placed(1, 8), bound]))]).toEqual([]);
    expect([...functionIdentities(recordingOf([SOURCE, bound]))]).toEqual([]);
  });
});

describe('one function met under several ids', () => {
  it('is one row where its file, name and the position of its start are the same', () => {
    const recording = recordingOf([
      SOURCE,
      { kind: 'source', id: 1, url: 'http://localhost:4781/other.js' },
      { kind: 'function', id: 0, name: 'weigh', source: 0, line: 4, column: 9 },
      { kind: 'function', id: 1, name: 'weigh', source: 0, line: 4, column: 9 },
      { kind: 'function', id: 2, name: 'weigh', source: 1, line: 4, column: 9 },
      {
        kind: 'function',
        id: 3,
        name: 'weigh',
        source: 0,
        originalFile: 'src/deck.ts',
        originalLine: 2,
        originalColumn: 1,
      },
      {
        kind: 'function',
        id: 4,
        name: 'w',
        source: 1,
        originalName: 'weigh',
        originalFile: 'src/deck.ts',
        originalLine: 2,
        originalColumn: 1,
      },
      { kind: 'function', id: 5, name: 'weigh', source: 0, line: 4, column: 9, place: true },
    ]);
    expect([...functionIdentities(recording)]).toEqual([
      [1, 0],
      [4, 3],
    ]);
  });

  it('is one row where its script was told of twice', () => {
    const recording = recordingOf([
      SOURCE,
      { kind: 'source', id: 9, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'weigh', source: 0, line: 4, column: 9 },
      { kind: 'function', id: 1, name: 'weigh', source: 9, line: 4, column: 9 },
    ]);
    expect([...functionIdentities(recording)]).toEqual([[1, 0]]);
  });

  it('is one row, with the time it truly ran, where its handler saw it and its script was rewritten', () => {
    const recording = recordingOf([
      SOURCE,
      { kind: 'function', id: 0, name: 'weigh', owner: 'own', partLength: 40, partHash: 'ab12cd34' },
      {
        kind: 'function',
        id: 1_048_576,
        name: 'weigh',
        source: 0,
        originalName: 'weigh',
        originalFile: 'src/deck.ts',
        originalLine: 2,
        originalColumn: 1,
      },
      timer(100, 400.2, 0),
      timer(900, 400.2, 0),
      calls([100.1, 500.1, 1_048_576], [900.1, 1300.1, 1_048_576]),
      end(2000),
    ]);
    const [row, ...others] = functionTable(recording, WIDE_LENS);
    expect(others).toEqual([]);
    expect(row!.functionId).toBe(1_048_576);
    expect(row!.totalMs).toBeCloseTo(800.4, 3);
    expect(row!.count).toBe(2);
  });

  it('stays two where entries begin with calls of several functions, or of one with another name', () => {
    const anonymous = (name: string): Row => ({ kind: 'function', id: 0, name, owner: 'own' });
    const code = [
      { kind: 'function', id: 7, name: 'weigh', source: 0, line: 4, column: 9 },
      { kind: 'function', id: 8, name: 'stow', source: 0, line: 9, column: 9 },
    ] as Row[];
    const two = [SOURCE, anonymous(''), ...code, timer(100, 50, 0), timer(900, 50, 0)];
    const some = recordingOf([...two, calls([100, 150, 7], [900, 950, 8])]);
    expect(functionIdentities(some).size).toBe(0);
    const named = recordingOf([SOURCE, anonymous('trim'), ...code, timer(100, 50, 0), calls([100, 150, 7])]);
    expect(functionIdentities(named).size).toBe(0);
  });

  it('is found at once however long the chain is that leads to it', () => {
    const chain = Array.from({ length: 20_000 }, (_, id): Row => ({
      kind: 'function',
      id,
      name: 'stow',
      ...(id === 0 ? {} : { sameAs: id - 1 }),
    }));
    const startedAt = performance.now();
    const identities = functionIdentities(recordingOf(chain));
    expect(new Set(identities.values())).toEqual(new Set([0]));
    expect(identities.size).toBe(19_999);
    expect(performance.now() - startedAt).toBeLessThan(5000);
  });
});
