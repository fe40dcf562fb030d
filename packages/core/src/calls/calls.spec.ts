import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { breakdownOf } from '../attribution/time-breakdown';
import { partition } from '../attribution/partition';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { arbitraryRecording, recordingOf } from '../testing/arbitrary-recording';
import { callTree } from './call-tree';
import { callersTree, type CallerNode, type CallersTree } from './callers-tree';
import { flameLayout } from './flame-layout';
import { focusOn } from './focus';
import { functionTable } from './function-table';
import { WIDE_LENS, lensSchema, type Lens } from './lens';
import { fileCosts } from './line-costs';
import { occurrencesOf, rateOver, sharesOver } from './occurrences';

const arbitraryLens: fc.Arbitrary<Lens> = fc
  .record({
    startUs: fc.integer({ min: 0, max: 2_400_000 }),
    lengthUs: fc.integer({ min: 0, max: 900_000 }),
    foldLibraries: fc.boolean(),
    foldRecursion: fc.boolean(),
    minMs: fc.constantFrom(0, 0, 1, 20),
  })
  .map(({ startUs, lengthUs, ...lens }) => ({
    ...WIDE_LENS,
    ...lens,
    range: [startUs / 1000, (startUs + lengthUs) / 1000],
  }));

const sumOf = (values: Iterable<number>) => [...values].reduce((sum, value) => sum + value, 0);

function scriptMs(recording: Recording, lens: Lens): number {
  const [startMs, endMs] = [lens.range![0]!, Math.min(lens.range![1]!, recording.range.endMs)];
  const blame = breakdownOf(partition(recording, lens.thread, { startMs, endMs }));
  return blame.scriptOwnMs + blame.scriptLibraryMs;
}

function leavesMs(tree: CallersTree, node: CallerNode): number {
  const callers = tree.callers(node);
  return (
    node.selfMs -
    sumOf(callers.map(({ selfMs }) => selfMs)) +
    sumOf(callers.map((caller) => leavesMs(tree, caller)))
  );
}

describe('calls under a lens', () => {
  it('sum to the script of the partition, in the table, in the tree and among the callers', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryLens, (recording, anyLens) => {
        const lens = { ...anyLens, minMs: 0 };
        const table = functionTable(recording, lens);
        const isScript = ({ functionId }: { functionId: number }) =>
          recording.functions.get(functionId)?.activity === undefined;
        const selfMs = sumOf(table.map((row) => row.selfMs));
        expect(sumOf(table.filter(isScript).map((row) => row.selfMs))).toBeCloseTo(
          scriptMs(recording, lens),
          6,
        );
        const tree = callTree(recording, lens);
        expect(sumOf(tree.roots().map(({ totalMs }) => totalMs))).toBeCloseTo(selfMs, 6);
        const callers = callersTree(recording, lens);
        expect(sumOf(callers.roots().map((root) => root.selfMs))).toBeCloseTo(selfMs, 6);
        expect(sumOf(callers.roots().map((root) => leavesMs(callers, root)))).toBeCloseTo(selfMs, 6);
      }),
    );
  });

  it('have no time below zero, and no child longer than its caller', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryLens, (recording, lens) => {
        const tree = callTree(recording, lens);
        const look = (node: ReturnType<typeof tree.roots>[number]): void => {
          const children = tree.children(node.node);
          expect(node.selfMs).toBeGreaterThan(-1e-6);
          expect(sumOf(children.map(({ totalMs }) => totalMs)) + node.selfMs).toBeCloseTo(node.totalMs, 6);
          children.forEach(look);
        };
        tree.roots().forEach(look);
      }),
    );
  });

  it('keep what encloses them when libraries, recursion or short calls are folded', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryLens, (recording, lens) => {
        const all = callTree(recording, { ...lens, foldLibraries: false, foldRecursion: false, minMs: 0 });
        const folded = callTree(recording, { ...lens, minMs: 0 });
        expect(folded.totalMs).toBeCloseTo(all.totalMs, 6);
        const roots = new Map(all.roots().map(({ functionId, totalMs }) => [functionId, totalMs]));
        for (const { functionId, totalMs } of folded.roots())
          expect(totalMs).toBeCloseTo(roots.get(functionId)!, 6);
        const shown = callTree(recording, lens);
        for (const { functionId, totalMs } of shown.roots()) {
          expect(totalMs).toBeLessThanOrEqual(roots.get(functionId)! + 1e-6);
        }
      }),
    );
  });

  it('count no function twice in its own total', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryLens, (recording, lens) => {
        const tree = callTree(recording, lens);
        for (const { totalMs } of functionTable(recording, lens))
          expect(totalMs).toBeLessThanOrEqual(tree.totalMs + 1e-6);
      }),
    );
  });

  it('fill the width of the flame graph, callees within their callers', () => {
    fc.assert(
      fc.property(
        arbitraryRecording,
        arbitraryLens,
        fc.constantFrom('weight' as const, 'name' as const),
        (recording, lens, order) => {
          const boxes = flameLayout(recording, callTree(recording, lens), order, 0);
          const top = boxes.filter(({ depth }) => depth === 0);
          if (boxes.length > 0) expect(sumOf(top.map(({ width }) => width))).toBeCloseTo(1, 6);
          for (const box of boxes) expect(box.left + box.width).toBeLessThanOrEqual(1 + 1e-6);
        },
      ),
    );
  });
});

const call = (...events: [us: number, id: number][]): Row => ({
  kind: 'calls',
  ...packCalls(0, { timesUs: events.map(([us]) => us), functions: events.map(([, id]) => id) }),
});
const FUNCTIONS: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'onBoardAll', source: 0, originalFile: 'src/deck.ts', originalLine: 48 },
  { kind: 'function', id: 1, name: 'sum', source: 0, owner: 'library' },
  { kind: 'function', id: 2, name: 'weigh', source: 0, originalFile: 'src/deck.ts', originalLine: 9 },
  { kind: 'function', id: 3, name: 'layout', activity: 'layout' },
];
/** onBoardAll 0–100 ms, in it sum 10–60 ms that calls weigh 20–30 and 40–50, and weigh itself 70–90 that calls itself. */
const BOARDING = recordingOf([
  ...FUNCTIONS,
  call(
    [0, 0],
    [10_000, 1],
    [20_000, 2],
    [30_000, CALL_END],
    [40_000, 2],
    [45_000, 3],
    [48_000, CALL_END],
    [50_000, CALL_END],
    [60_000, CALL_END],
    [70_000, 2],
    [75_000, 2],
    [85_000, CALL_END],
    [90_000, CALL_END],
    [100_000, CALL_END],
  ),
]);
const lensWith = (lens: Partial<Lens>): Lens => ({ ...WIDE_LENS, ...lens });
const rowOf = (functionId: number, lens: Partial<Lens> = {}) =>
  functionTable(BOARDING, lensWith(lens)).find((row) => row.functionId === functionId);

describe('the function table', () => {
  it('has self, total, count, shortest and longest of each', () => {
    expect(rowOf(0)).toMatchObject({ selfMs: 30, totalMs: 100, count: 1 });
    expect(rowOf(1)).toMatchObject({ selfMs: 30, totalMs: 50, count: 1, owner: 'library' });
    expect(rowOf(2)).toMatchObject({ selfMs: 37, totalMs: 40, count: 4, shortestMs: 10, longestMs: 20 });
    expect(rowOf(3)).toMatchObject({ selfMs: 3, owner: 'browser' });
    expect(rowOf(2)!.callsPerSecond).toBeCloseTo(40);
  });

  it('charges a folded library to the own function that called it', () => {
    expect(rowOf(1, { foldLibraries: true })).toBeUndefined();
    expect(rowOf(0, { foldLibraries: true })).toMatchObject({ selfMs: 60, totalMs: 100 });
  });

  it('charges calls that are too short to what called them', () => {
    expect(rowOf(2, { minMs: 15 })).toMatchObject({ selfMs: 20, totalMs: 20, count: 1 });
    expect(rowOf(1, { minMs: 15 })).toMatchObject({ selfMs: 50, totalMs: 50 });
  });

  it('shows what a function in focus called, and who called it', () => {
    expect(rowOf(0, { focus: [2] })).toBeUndefined();
    expect(rowOf(2, { focus: [2] })).toMatchObject({ totalMs: 40 });
    expect(rowOf(1, { focus: [2, 1] })).toMatchObject({ totalMs: rowOf(1, {})!.totalMs });
    expect(rowOf(2, { focus: [2, 1] })).toMatchObject({ totalMs: 40 });
    const { callers, callees } = focusOn(BOARDING, WIDE_LENS, 2);
    expect(callers.map(({ functionId, totalMs, count }) => [functionId, totalMs, count])).toEqual([
      [1, 20, 2],
      [0, 20, 1],
      [2, 10, 1],
    ]);
    expect(callees.map(({ functionId, totalMs }) => [functionId, totalMs])).toEqual([
      [2, 10],
      [3, 3],
    ]);
  });
});

describe('a function', () => {
  it('has every occurrence, a call inside itself as part of it', () => {
    const { startsMs, lengthsMs, exact, statistics } = occurrencesOf(BOARDING, WIDE_LENS, 2);
    expect([...startsMs]).toEqual([20, 40, 70]);
    expect([...lengthsMs]).toEqual([10, 10, 20]);
    expect(exact).toBe(true);
    expect(statistics).toMatchObject({ count: 3, medianMs: 10, longestMs: 20, totalMs: 40 });
    expect([...rateOver(startsMs, { startMs: 0, endMs: 100 }, 2)]).toEqual([2, 1]);
    const shares = sharesOver({ startsMs, lengthsMs }, { startMs: 0, endMs: 100 }, 4);
    expect([...shares].map((share) => share.toFixed(2))).toEqual(['0.20', '0.60', '0.20', '0.60']);
  });

  it('has shares of steps that add up to all it took, whatever the steps', () => {
    const { startsMs, lengthsMs } = occurrencesOf(BOARDING, WIDE_LENS, 2);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), (steps) => {
        const shares = sharesOver({ startsMs, lengthsMs }, { startMs: 0, endMs: 100 }, steps);
        const sum = shares.reduce((all, share) => all + share * (100 / steps), 0);
        expect(sum).toBeCloseTo(40, 3);
        expect(Math.max(...shares)).toBeLessThanOrEqual(1 + 1e-6);
      }),
    );
  });

  it('that only samples saw has stretches instead of calls', () => {
    const samples = { timesUs: [5000, 15_000, 25_000, 35_000], stacks: [0, 0, -1, 0] };
    const recording = recordingOf([
      ...FUNCTIONS,
      { kind: 'stack', id: 0, function: 2 },
      { kind: 'samples', ...packSamples(0, 10, samples) },
    ]);
    expect(functionTable(recording, WIDE_LENS)[0]).toMatchObject({ functionId: 2, count: 0, seen: 2 });
    expect(occurrencesOf(recording, WIDE_LENS, 2)).toMatchObject({ exact: false, statistics: { count: 2 } });
  });
});

describe('functions that call each other', () => {
  /** stow → weigh → stow → weigh, each for 10 ms before it calls the next and 10 ms after. */
  const timesUs = [0, 10, 20, 30, 40, 50, 60, 70].map((ms) => ms * 1000);
  const functions = [0, 1, 0, 1, CALL_END, CALL_END, CALL_END, CALL_END];
  const recording = recordingOf([
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    { kind: 'function', id: 0, name: 'stow', source: 0 },
    { kind: 'function', id: 1, name: 'weigh', source: 0 },
    { kind: 'calls', ...packCalls(0, { timesUs, functions }) },
  ]);
  const folded = { ...WIDE_LENS, foldRecursion: true };

  it('fold into one call of each', () => {
    const tree = callTree(recording, folded);
    const [stow] = tree.roots();
    expect(stow).toMatchObject({ functionId: 0, totalMs: 70, selfMs: 40, count: 1 });
    const [weigh, ...others] = tree.children(stow!.node);
    expect(others).toEqual([]);
    expect(weigh).toMatchObject({ functionId: 1, selfMs: 30, hasChildren: false });
  });

  it('keep the time each was on the stack in the table, folded or not', () => {
    const totals = (lens: Lens) =>
      functionTable(recording, lens)
        .sort((a, b) => a.functionId - b.functionId)
        .map(({ selfMs, totalMs }) => [selfMs, totalMs]);
    expect(totals(folded)).toEqual(totals(WIDE_LENS));
    expect(totals(folded)).toEqual([
      [40, 70],
      [30, 50],
    ]);
  });
});

describe('a tree of calls', () => {
  it('finds functions, and tells their share of the time, each moment once', () => {
    const { hits, leads, share } = callTree(BOARDING, WIDE_LENS).search((functionId) => functionId === 2);
    expect(hits.size).toBe(3);
    expect(leads.size).toBe(5);
    expect(share).toBeCloseTo(0.4);
  });

  it('stands the cost beside the lines of the files', () => {
    const [file] = fileCosts(BOARDING, WIDE_LENS);
    expect(file).toMatchObject({
      file: 'src/deck.ts',
      lines: [
        { line: 9, selfMs: 37 },
        { line: 48, selfMs: 30 },
      ],
    });
  });
});

describe('a lens', () => {
  it('refuses what makes no sense, naming it', () => {
    expect(() => lensSchema.validateSync({ minMs: -1 })).toThrow('minMs');
    expect(() => lensSchema.validateSync({ range: [1] })).toThrow('range');
  });
});
