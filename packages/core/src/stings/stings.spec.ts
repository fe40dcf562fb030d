import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { runsOf } from '../compare/series-runs';
import { interactionsOf } from '../inputs/interactions';
import { recordingOf } from '../testing/arbitrary-recording';
import { findStings } from '../detectors/index';
import { seriesOf } from './series';
import { DEFAULT_THRESHOLDS, thresholdsOf, thresholdsSchema } from '../format/thresholds';

const task = (startMs: number, durationMs: number): Row => ({
  kind: 'task',
  thread: 0,
  startMs,
  durationMs,
  source: 'longtask',
});
const tap = (startMs: number, durationMs: number, interaction = startMs + 1): Row => ({
  kind: 'input',
  thread: 0,
  startMs,
  durationMs,
  type: 'click',
  interaction,
  target: 'button “Board all”',
  processingStartMs: startMs + 1,
  processingEndMs: startMs + durationMs - 10,
});
const find = (...rows: Row[]) => findStings(recordingOf(rows), DEFAULT_THRESHOLDS);

describe('stings', () => {
  it('are what goes beyond its budget, and nothing else', () => {
    expect(find(tap(0, 200), task(1000, 50))).toEqual([]);
    expect(find(tap(0, 208)).map(({ kind }) => kind)).toEqual(['slow-response']);
    expect(find(task(0, 51)).map(({ kind }) => kind)).toEqual(['long-task']);
    expect(find(task(0, 250)).map(({ kind }) => kind)).toEqual(['hang']);
  });

  it('name a hang that delays an input as its slow response, which says so', () => {
    const stings = find(tap(100, 600), task(110, 560), task(900, 120));
    expect(stings.map(({ kind, also }) => [kind, also])).toEqual([
      ['slow-response', ['hang']],
      ['long-task', []],
    ]);
  });

  it('leave a hang alone that only begins within a response', () => {
    expect(find(tap(0, 240), task(200, 900)).map(({ kind }) => kind)).toEqual(['slow-response', 'hang']);
  });

  it('rank those first for which a person waited, then by the time beyond the budget', () => {
    const stings = find(task(5000, 3000), tap(0, 216), tap(1000, 640));
    expect(stings.map(({ kind, feltMs }) => [kind, feltMs])).toEqual([
      ['slow-response', 640],
      ['slow-response', 216],
      ['hang', 3000],
    ]);
  });

  it('are gathered with their repeats, and how often the same was done', () => {
    const recording = recordingOf([tap(0, 300), tap(1000, 80), tap(2000, 500), task(4000, 70)]);
    const stings = findStings(recording, DEFAULT_THRESHOLDS);
    const series = seriesOf(stings, interactionsOf(recording));
    expect(
      series.map(({ label, attempts, stings: members }) => [
        label,
        attempts,
        members.map(({ feltMs }) => feltMs),
      ]),
    ).toEqual([
      ['Tap button “Board all”', 3, [500, 300]],
      ['Work of the browser or short scripts', undefined, [70]],
    ]);
  });

  it('are named by the longest entry into script', () => {
    const rows: Row[] = [
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'pollDepartures', source: 0 },
      {
        kind: 'handler',
        thread: 0,
        startMs: 0,
        durationMs: 80,
        type: 'user-callback',
        invoker: 'TimerHandler:setInterval',
        function: 0,
      },
      {
        kind: 'handler',
        thread: 0,
        startMs: 82,
        durationMs: 9,
        type: 'event-listener',
        invoker: 'DIV.onscroll',
      },
    ];
    expect(find(...rows, task(0, 95))[0]!.label).toBe('Timer pollDepartures');
  });
});

describe('a block in which an input was handled', () => {
  const handled = tap(1000, 160);
  const entry = (owner: 'own' | 'library'): Row[] => [
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    { kind: 'function', id: 0, name: 'onBoardAll', source: 0, owner },
    {
      kind: 'handler',
      thread: 0,
      startMs: 1001,
      durationMs: 149,
      type: 'event-listener',
      invoker: 'DIV#root.onclick',
      function: 0,
    },
  ];
  const labelOf = (...rows: Row[]) => find(...rows).map(({ label }) => label);

  it('is named by it where a library dispatched it, and by own code where that was entered', () => {
    expect(labelOf(handled, task(1000, 150), ...entry('library'))).toEqual([
      'Handling of the tap on button “Board all”',
    ]);
    expect(labelOf(handled, task(1000, 150), ...entry('own'))).toEqual(['Listener onBoardAll']);
  });

  it('is not named by it where most of it was something else', () => {
    expect(labelOf(handled, task(800, 350), ...entry('library'))).not.toContain(
      'Handling of the tap on button “Board all”',
    );
  });

  it('is compared with all that was handled, within its budget or not', () => {
    const quick = tap(3000, 40);
    const label = 'Handling of the tap on button “Board all”';
    const recording = recordingOf([handled, quick, task(1000, 150), ...entry('library')]);
    const runs = runsOf(recording, DEFAULT_THRESHOLDS, new Set([label])).get(label)!;
    expect(runs.delays.map(({ ms }) => ms)).toEqual([149, 29]);
    expect(runs.isWhole).toBe(true);
  });
});

describe('thresholds', () => {
  it('default to the published ones and refuse what makes no sense', () => {
    expect(DEFAULT_THRESHOLDS).toMatchObject({ responseMs: 200, longTaskMs: 50, hangMs: 250 });
    expect(() => thresholdsSchema.validateSync({ responseMs: 0 })).toThrow('responseMs');
    expect(thresholdsOf({ thresholds: { responseMs: 300 } }, { hangMs: 900 })).toMatchObject({
      responseMs: 300,
      hangMs: 900,
      longTaskMs: 50,
    });
    expect(() => thresholdsOf({}, { respnseMs: 300 })).toThrow('respnseMs');
    expect(() => thresholdsOf({}, { hangMs: '300' })).toThrow('hangMs');
  });
});
