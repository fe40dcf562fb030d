import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { medianDifference } from '../statistics/median-difference';
import { arbitraryRecording, deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { compareRecordings } from './compare';

const taps = (...feltMs: number[]): Row[] =>
  feltMs.map((durationMs, index) => ({
    kind: 'input',
    thread: 0,
    startMs: index * 2000,
    durationMs,
    type: 'click',
    interaction: index + 1,
    target: 'button “Board all”',
    processingStartMs: index * 2000 + 1,
    processingEndMs: index * 2000 + durationMs - 8,
  }));
const verdict = (before: number[], after: number[]) =>
  compareRecordings(recordingOf(taps(...before)), recordingOf(taps(...after))).series.find(
    ({ isInteraction }) => isInteraction,
  )!;

describe('a comparison', () => {
  it('of a recording with itself finds no change', () => {
    fc.assert(
      fc.property(arbitraryRecording, (recording) => {
        const { warnings, series, functions } = compareRecordings(recording, recording);
        expect(warnings).toEqual([]);
        expect(new Set(functions.map(({ change }) => change)).size).toBeLessThanOrEqual(1);
        for (const { change } of functions) expect(change).toBe('same');
        for (const one of series) expect(['no-clear-change', 'too-few-to-say']).toContain(one.verdict);
      }),
      { numRuns: 40 },
    );
  });

  it('says faster or slower only where the interval leaves no doubt', () => {
    expect(verdict([600, 616, 608, 624, 600], [96, 104, 88, 96, 112])).toMatchObject({ verdict: 'faster' });
    expect(verdict([96, 104, 88, 96, 112], [600, 616, 608, 624, 600]).verdict).toBe('slower');
    expect(verdict([96, 400, 88, 300, 112], [104, 390, 80, 310, 120]).verdict).toBe('no-clear-change');
    expect(verdict([600, 608], [96, 104]).verdict).toBe('too-few-to-say');
    expect(verdict([600, 616, 608], [600, 616, 612]).verdict).toBe('no-clear-change');
  });

  it('gives the same interval every time', () => {
    const values = [
      [600, 616, 608, 624],
      [96, 104, 88, 96],
    ] as const;
    expect(medianDifference(...values)).toEqual(medianDifference(...values));
    const { difference, low, high } = medianDifference(...values);
    expect(low).toBeLessThanOrEqual(difference);
    expect(high).toBeGreaterThanOrEqual(difference);
  });

  it('warns of what makes figures hard to compare', () => {
    const other = deskHeader({ mode: 'exact', target: { ...deskHeader().target, device: 'phone' } });
    expect(compareRecordings(recordingOf([]), recordingOf([], other)).warnings).toEqual([
      'The device differs: computer before, phone after.',
      'The mode differs: everyday before, exact after.',
    ]);
  });

  it('finds the function gone that the mended version does not call', () => {
    const { functions, series } = compareRecordings(
      recorded('board-all-exact'),
      recorded('board-all-exact-mended'),
    );
    const changes = new Map(functions.map(({ name, change }) => [name, change]));
    expect(changes.get('bendingOfPair')).toBe('gone');
    expect(changes.get('computeTrimByPairs')).toBe('gone');
    expect(series.find(({ label }) => label === 'Tap button “Board all”')).toMatchObject({
      before: { count: 1 },
      after: { count: 1 },
      verdict: 'too-few-to-say',
    });
  });

  it('knows a function again whose line has moved', () => {
    const code = (line: number): Row[] => [
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      {
        kind: 'function',
        id: 0,
        name: 'a',
        source: 0,
        originalName: 'weigh',
        originalFile: 'src/deck.ts',
        originalLine: line,
      },
      { kind: 'stack', id: 0, function: 0 },
      {
        kind: 'handler',
        thread: 0,
        startMs: 0,
        durationMs: 90,
        type: 'event-listener',
        invoker: 'BUTTON',
        function: 0,
      },
    ];
    const { functions } = compareRecordings(recordingOf(code(10)), recordingOf(code(48)));
    expect(functions.map(({ name, change }) => [name, change])).toEqual([['weigh', 'same']]);
  });
});
