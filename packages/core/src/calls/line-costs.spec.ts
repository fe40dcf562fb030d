import { describe, expect, it } from 'vitest';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { linesReport } from '../report/calls-report';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, deskRun, end } from '../testing/desk-rows';
import { functionTable } from './function-table';
import { WIDE_LENS } from './lens';
import { fileCosts } from './line-costs';

const FILE = 'src/desk/deck/trim.ts';
const placed = (id: number, name: string, line: number, more: object = {}): Row => ({
  kind: 'function',
  id,
  name,
  source: 0,
  originalFile: FILE,
  originalLine: line,
  originalColumn: 1,
  ...more,
});

/** computeTrim calls bendingOf on line 12, which stands on lines 26 and 27; a library sorts for it on line 28. */
const recordedBy = (header: Parameters<typeof deskHeader>[0], together?: number[]) =>
  recordingOf(
    [
      ...deskFunctions(),
      placed(0, 'computeTrim', 10),
      placed(1, 'bendingOf', 24),
      placed(2, 'sort', 3, { originalFile: 'node_modules/weft/sort.js', owner: 'library' }),
      { kind: 'stack', id: 0, function: 0, line: 12, column: 3 },
      { kind: 'stack', id: 1, function: 1, parent: 0, line: 26, column: 5 },
      { kind: 'stack', id: 2, function: 1, parent: 0, line: 27, column: 5 },
      { kind: 'stack', id: 3, function: 1, parent: 0, line: 28, column: 5 },
      { kind: 'stack', id: 4, function: 2, parent: 3, line: 9, column: 1 },
      deskRun(0, 10, 0),
      {
        kind: 'samples',
        ...packSamples(0, 1, {
          timesUs: Array.from({ length: 10 }, (_, at) => at * 1000 + 500),
          stacks: [0, 1, 1, 1, 1, 1, 2, 2, 4, 4],
          together,
        }),
      },
      end(20),
    ],
    deskHeader(header),
  );
const recording = recordedBy({ fine: true });
const lineOf = (line: number, foldLibraries = false) =>
  fileCosts(recording, { ...WIDE_LENS, foldLibraries })
    .find(({ file }) => file === FILE)!
    .lines.find((one) => one.line === line);

describe('what lines cost, where samples know their line', () => {
  it('is the same in a recording of another program, which has no fine mode', () => {
    const lens = { ...WIDE_LENS, foldLibraries: false };
    expect(fileCosts(recordedBy({}), lens)).toEqual(fileCosts(recording, lens));
    expect(linesReport(recordedBy({}), WIDE_LENS)).toEqual(linesReport(recording, WIDE_LENS));
  });

  it('is the time on the line itself, and with what was called from it', () => {
    expect(lineOf(26)).toMatchObject({ selfMs: 5, totalMs: 5, samples: 5 });
    expect(lineOf(12)).toMatchObject({ selfMs: 1, totalMs: 10, samples: 1 });
    expect(lineOf(28)).toMatchObject({ selfMs: 0, totalMs: 2, samples: 0 });
  });

  it('tells the share a line has of its function, and what it called', () => {
    expect(lineOf(26)!.share).toBeCloseTo(5 / 7);
    expect(lineOf(12)!.called).toEqual([{ functionId: 1, totalMs: 9 }]);
    expect(lineOf(28)!.called).toEqual([{ functionId: 2, totalMs: 2 }]);
  });

  it('charges a library to the own line that called it, where libraries are folded', () => {
    expect(lineOf(28, true)).toMatchObject({ selfMs: 2, totalMs: 2, samples: 2 });
  });

  it('sums to the own time of the functions', () => {
    for (const foldLibraries of [false, true]) {
      const lens = { ...WIDE_LENS, foldLibraries };
      const ofLines = fileCosts(recording, lens).reduce((sum, { selfMs }) => sum + selfMs, 0);
      const ofFunctions = functionTable(recording, lens).reduce((sum, { selfMs }) => sum + selfMs, 0);
      expect(ofLines).toBeCloseTo(ofFunctions);
    }
  });

  it('layout that was forced stands at the lines at which samples saw it, and else where the function begins', () => {
    const layout = 9;
    const forcing = (samples: readonly Row[]) =>
      recordingOf(
        [
          ...deskFunctions(),
          placed(0, 'makeRoom', 10),
          { kind: 'function', id: layout, name: 'forced layout', owner: 'browser', activity: 'layout' },
          { kind: 'stack', id: 0, function: 0, line: 13, column: 3 },
          deskRun(0, 10, 0),
          {
            kind: 'forced',
            thread: 0,
            startMs: 2,
            durationMs: 6,
            count: 3,
            costMs: 6,
            styleMs: 0,
            layoutMs: 6,
            read: 'offsetTop',
            function: 0,
          },
          { kind: 'calls', ...packCalls(0, { timesUs: [2000, 8000], functions: [layout, CALL_END] }) },
          ...samples,
          end(20),
        ],
        deskHeader({ fine: true }),
      );
    const timesUs = Array.from({ length: 10 }, (_, at) => at * 1000 + 500);
    const seen: Row = { kind: 'samples', ...packSamples(0, 1, { timesUs, stacks: timesUs.map(() => 0) }) };
    const forcedAt = (recording: Recording) =>
      fileCosts(recording, WIDE_LENS)
        .flatMap(({ lines }) => lines)
        .filter(({ forcedCount }) => forcedCount > 0)
        .map(({ line, forcedCount, forcedMs }) => [line, forcedCount, forcedMs]);
    expect(forcedAt(forcing([seen]))).toEqual([[13, 3, 6]]);
    expect(forcedAt(forcing([]))).toEqual([[10, 3, 6]]);
  });

  it('is reported with how far chance may have moved it', () => {
    const [first] = linesReport(recording, WIDE_LENS);
    expect(first).toMatchObject({ file: FILE, line: 26, owner: 'own', selfMs: 5, samples: 5, count: 0 });
    expect(first!.selfErrorMs).toBeCloseTo(Math.sqrt(5), 2);
  });

  it('is as sure as there were measurements, where several samples came of one', () => {
    const together = [1, 5, 5, 5, 5, 5, 2, 1, 1, 1];
    const [line26, line27] = linesReport(recordedBy({ fine: true }, together), WIDE_LENS);
    expect(line26).toMatchObject({ line: 26, selfMs: 5, selfErrorMs: 5 });
    // Of two samples one is of two that came together, the other of which is not in the range.
    expect(line27!.selfErrorMs).toBeCloseTo(Math.sqrt(2 + 1), 2);
    const errorOf = (recorded: Recording) =>
      functionTable(recorded, WIDE_LENS).find(({ functionId }) => functionId === 1)!.selfErrorMs;
    expect(errorOf(recording)).toBeLessThan(2);
    expect(errorOf(recordedBy({ fine: true }, together))).toBeCloseTo(
      Math.hypot(errorOf(recording), Math.sqrt(25 + 2)),
    );
  });
});
