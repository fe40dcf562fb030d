import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { checkBudget } from '../report/budget';
import { budgetSchema } from '../report/budget-schema';
import { budgetWords } from '../report/budget-words';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { quietRanges, quietSums } from './quiet';

const redraw = (startMs: number, target: string, changed: boolean): Row => ({
  kind: 'redraw',
  thread: 0,
  startMs,
  nodes: 1,
  attributes: 0,
  texts: 1,
  changed,
  inView: true,
  target,
});
const measure = (name: string, startMs: number, durationMs: number): Row => ({
  kind: 'span',
  thread: 0,
  startMs,
  durationMs,
  type: 'measure',
  name,
});
const ROWS: Row[] = [
  redraw(100, 'figure “Tide”', true),
  redraw(1100, 'figure “Tide”', false),
  redraw(1200, 'figure “Tide”', true),
  redraw(1300, 'list “Departures”', true),
  {
    kind: 'request',
    thread: 0,
    startMs: 1250,
    durationMs: 40,
    url: 'http://localhost:4781/api/departures',
    initiator: 'fetch',
  },
  measure('quiet: sailing list', 2000, 500),
  measure('quietly', 3000, 500),
];
const recording = recordingOf(ROWS, deskHeader({ quiet: [{ startMs: 1000, endMs: 1500 }] }));
const held = (quiet: object, one = recording) =>
  checkBudget(one, budgetSchema.cast({ quiet })).map((result) => [
    result.what,
    budgetWords(result),
    result.kept,
  ]);

describe('quiet ranges', () => {
  it('are those that were marked, and measures of the app that say so', () => {
    expect(quietRanges(recording)).toEqual([
      { startMs: 1000, endMs: 1500 },
      { startMs: 2000, endMs: 2500, name: 'sailing list' },
    ]);
  });

  it('tell what went on in them although nothing should have changed', () => {
    const sums = quietSums(recording, { startMs: 1000, endMs: 1500 }, DEFAULT_THRESHOLDS);
    expect(sums).toMatchObject({ redraws: 3, visible: 2, requests: 1, scriptMs: 0 });
    expect(sums.elements.map(({ target, count }) => [target, count])).toEqual([
      ['figure “Tide”', 2],
      ['list “Departures”', 1],
    ]);
  });

  it('do not charge the app with what the recorder did', () => {
    const one = recordingOf([
      { kind: 'source', id: 0, url: 'http://localhost:4781/__nettle-patch/recorder.js' },
      { kind: 'function', id: 0, name: 'probe', source: 0 },
      {
        kind: 'handler',
        thread: 0,
        startMs: 1100,
        durationMs: 20,
        type: 'user-callback',
        invoker: 'frame',
        function: 0,
      },
    ]);
    const sums = quietSums(one, { startMs: 1000, endMs: 1500 }, DEFAULT_THRESHOLDS);
    expect([sums.scriptMs, sums.functions]).toEqual([0, []]);
  });

  it('are held by a budget, each for itself', () => {
    expect(held({ redraws: 2, requests: 1 })).toEqual([
      ['Redraws in the quiet range from 1.00 s to 1.50 s', '3 redraws, allowed 2', false],
      ['Requests in the quiet range from 1.00 s to 1.50 s', '1 requests, allowed 1', true],
      ['Redraws in the quiet range “sailing list”', '0 redraws, allowed 2', true],
      ['Requests in the quiet range “sailing list”', '0 requests, allowed 1', true],
    ]);
  });

  it('that are asked for and not there are said not to be known', () => {
    expect(held({ redraws: 0 }, recordingOf(ROWS.slice(0, 5)))).toEqual([
      ['Quiet ranges: none is marked', '0 ranges, allowed 0', undefined],
    ]);
  });
});
