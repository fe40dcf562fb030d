import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { arbitraryRecording, deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { changeWords, firmnessWords } from '../report/comparison-words';
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

/** A press of the button that weighs, for so long by exact calls or by samples. */
const weighing = (attempts: number, lengthMs: number, how: 'exact' | 'sampled'): Row[] => {
  const starts = Array.from({ length: attempts }, (_, at) => 1000 + at * 1000);
  const calls = {
    timesUs: starts.flatMap((ms) => [ms * 1000, (ms + lengthMs) * 1000]),
    functions: starts.flatMap(() => [0, CALL_END]),
  };
  const samples = starts.flatMap((ms) => Array.from({ length: 100 }, (_, at) => ms + at * 10));
  const columns = {
    timesUs: samples.map((ms) => ms * 1000),
    stacks: samples.map((ms) => ((ms - 1000) % 1000 < lengthMs ? 0 : -1)),
  };
  return [
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    { kind: 'function', id: 0, name: 'weigh', source: 0, line: 1, column: 1 },
    { kind: 'stack', id: 0, function: 0 },
    ...starts.map((startMs, at): Row => ({
      kind: 'input',
      thread: 0,
      startMs,
      durationMs: lengthMs + 8,
      type: 'click',
      interaction: at + 1,
      target: 'button “Weigh”',
      processingStartMs: startMs,
      processingEndMs: startMs + lengthMs,
    })),
    how === 'exact'
      ? { kind: 'calls', ...packCalls(0, calls) }
      : { kind: 'samples', ...packSamples(0, 10, columns) },
    { kind: 'end', startMs: 1000 + attempts * 1000, reason: 'stopped' },
  ];
};
const functionChange = (before: Row[], after: Row[]) =>
  compareRecordings(recordingOf(before), recordingOf(after)).functions[0]!;

/** One sample that saw nothing run, far from anything. */
const IDLE: Row = { kind: 'samples', ...packSamples(0, 20, { timesUs: [100_000], stacks: [-1] }) };

describe('functions', () => {
  it('are held against each other an attempt, not in sum over different numbers of attempts', () => {
    const one = functionChange(weighing(12, 40, 'exact'), weighing(4, 40, 'exact'));
    expect(one).toMatchObject({ unit: 'attempt', change: 'same' });
    expect(one.before!.perUnitMs).toBeCloseTo(40);
    expect(one.after!.perUnitMs).toBeCloseTo(40);
  });

  it('are cheaper where each attempt takes less, however often it was tried', () => {
    expect(functionChange(weighing(4, 40, 'exact'), weighing(12, 30, 'exact')).change).toBe('cheaper');
  });

  it('that were sampled have changed only beyond the error of sampling', () => {
    expect(functionChange(weighing(4, 40, 'sampled'), weighing(4, 30, 'sampled')).change).toBe('unsure');
    const much = functionChange(weighing(30, 300, 'sampled'), weighing(30, 200, 'sampled'));
    expect(much.change).toBe('cheaper');
    expect(much.before!.errorMs).toBeGreaterThan(5);
  });

  it('are gone only where they would have been expected to be seen', () => {
    const without = (attempts: number) =>
      weighing(attempts, 40, 'exact').filter(({ kind }) => kind !== 'calls');
    const others: Row[] = [
      { kind: 'function', id: 1, name: 'stow', source: 0, line: 9, column: 1 },
      { kind: 'calls', ...packCalls(0, { timesUs: [500_000, 500_100], functions: [1, CALL_END] }) },
    ];
    const change = (attempts: number) =>
      compareRecordings(
        recordingOf(weighing(12, 40, 'exact')),
        recordingOf([...without(attempts), ...others]),
      ).functions.find(({ name }) => name === 'weigh')!.change;
    expect(change(12)).toBe('gone');
    expect(change(2)).toBe('gone');
    const sampled = (attempts: number, lengthMs: number) =>
      compareRecordings(
        recordingOf(weighing(attempts, lengthMs, 'sampled')),
        recordingOf(
          weighing(1, lengthMs, 'sampled')
            .filter(({ kind }) => kind !== 'samples')
            .concat(IDLE),
        ),
      ).functions.find(({ name }) => name === 'weigh')!.change;
    expect(sampled(12, 40)).toBe('unsure');
    // Seven samples where half as many were to be expected come on one side alone as often as one in seventeen.
    expect(sampled(1, 70)).toBe('unsure');
  });
});

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
    expect(verdict([600, 616, 608, 600], [600, 616, 612, 616]).verdict).toBe('no-clear-change');
  });

  it('says how many more runs would make a verdict possible: three against three never can', () => {
    const three = verdict([600, 616, 608], [96, 104, 88]);
    expect(three).toMatchObject({ verdict: 'too-few-to-say', missing: { before: 1, after: 1 } });
    expect(firmnessWords(three, 0)).toBe(
      'So few could differ as much by chance alone: 1 more before and 1 more after would be enough to tell.',
    );
    const four = verdict([600, 616, 608, 624], [96, 104, 88, 112]);
    expect(four).toMatchObject({ verdict: 'faster', missing: { before: 0, after: 0 } });
    expect(firmnessWords(four, 1)).toBe(
      'With no change, a difference as large would come in 29 of 1,000 cases.',
    );
  });

  it('calls nothing a change that is less than the step delays are told in', () => {
    const finer = verdict([300, 301, 302, 303, 304, 305], [306, 307, 308, 309, 310, 311]);
    expect(finer).toMatchObject({ verdict: 'no-clear-change', stepMs: 8 });
    expect(firmnessWords(finer, 1)).toBe(
      'The difference is less than the 8 ms that the browser tells delays to.',
    );
  });

  it('takes what is only known to be below a bound for that', () => {
    const quick = (count: number): Row[] =>
      Array.from({ length: count }, (_, at) => ({
        kind: 'input',
        thread: 0,
        startMs: at * 2000,
        durationMs: 0,
        type: 'click',
        target: 'button “Board all”',
        belowMs: 16,
      }));
    const [one] = compareRecordings(recordingOf(taps(96, 104, 88, 96, 112)), recordingOf(quick(5))).series;
    expect(one).toMatchObject({
      verdict: 'faster',
      after: { medianMs: 16, medianIsBound: true },
      change: { difference: -80, isBound: true },
    });
    expect(changeWords(one!)).toBe('at least −80 ms, 95 % between −104 and −80');
    const same = compareRecordings(recordingOf(quick(5)), recordingOf(quick(6))).series;
    expect(same[0]).toMatchObject({ verdict: 'no-clear-change' });
  });

  it('keeps all runs of what went on in the background, those within budget too', () => {
    const polls = (lengthMs: number): Row[] => [
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'pollDepartures', source: 0 },
      ...Array.from({ length: 5 }, (_, at): Row => ({
        kind: 'handler',
        thread: 0,
        startMs: 1000 + at * 4000,
        durationMs: lengthMs + at,
        type: 'user-callback',
        invoker: 'TimerHandler:setInterval',
        function: 0,
      })),
      { kind: 'end', startMs: 21_000, reason: 'stopped' },
    ];
    const [one] = compareRecordings(recordingOf(polls(120)), recordingOf(polls(6))).series;
    expect(one).toMatchObject({
      label: 'Timer pollDepartures',
      before: { count: 5, medianMs: 122 },
      after: { count: 5, medianMs: 8 },
      verdict: 'faster',
    });
  });

  it('warns of what makes figures hard to compare', () => {
    const other = deskHeader({ mode: 'exact', target: { ...deskHeader().target, device: 'phone' } });
    expect(compareRecordings(recordingOf([]), recordingOf([], other)).warnings).toEqual([
      'The device differs: computer before, phone after.',
      'The mode differs: everyday before, exact after.',
    ]);
    const [outside, within] = [true, false].map((isolated) => deskHeader({ fine: true, isolated }));
    expect(compareRecordings(recordingOf([], outside), recordingOf([], within)).warnings).toEqual([
      'The mode differs: fine (isolated) before, fine (not isolated) after.',
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
