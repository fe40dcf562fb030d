import { describe, expect, it } from 'vitest';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { deskRun, end } from '../testing/desk-rows';
import { rangeBreakdown } from './range-breakdown';

const CODE: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'onDragMove', source: 0 },
  { kind: 'function', id: 8, name: 'forced style', owner: 'browser', activity: 'style' },
  { kind: 'function', id: 9, name: 'forced layout', owner: 'browser', activity: 'layout' },
];
const handler = (more: object) =>
  deskRun(100, 100, 0, { type: 'event-listener', invoker: 'BUTTON', ...more });
/** Ten forced layouts of 1 ms of style and 3 ms of layout each. */
const FORCED: Row = {
  kind: 'calls',
  ...packCalls(0, {
    timesUs: Array.from({ length: 10 }, (_, at) => 105_000 + at * 8000).flatMap((us) => [
      us,
      us + 1000,
      us + 1000,
      us + 4000,
    ]),
    functions: Array.from({ length: 10 }, () => [8, CALL_END, 9, CALL_END]).flat(),
  }),
};
const blame = (...rows: Row[]) =>
  rangeBreakdown(recordingOf([...CODE, ...rows, end(300)]), 0, { startMs: 100, endMs: 200 });

describe('style and layout that a long frame tells the amount of', () => {
  it('count once where they were timed at their place', () => {
    const { styleMs, layoutMs, scriptOwnMs } = blame(handler({ forcedMs: 40 }), FORCED);
    expect([styleMs, layoutMs, scriptOwnMs].map((ms) => Math.round(ms * 1000) / 1000)).toEqual([10, 30, 60]);
  });

  it('are spread over the script only as far as they were not timed', () => {
    const { styleMs, layoutMs, scriptOwnMs } = blame(handler({ forcedMs: 52 }), FORCED);
    expect(styleMs + layoutMs).toBeCloseTo(52, 6);
    expect(scriptOwnMs).toBeCloseTo(48, 6);
  });

  it('count once too where the render probe timed them inside the entry', () => {
    const probe: Row = {
      kind: 'render',
      thread: 0,
      startMs: 180,
      durationMs: 20,
      styleMs: 4,
      layoutMs: 16,
      paintMs: 0,
    };
    const { styleMs, layoutMs } = blame(handler({ forcedMs: 20 }), probe);
    expect(styleMs + layoutMs).toBeCloseTo(20, 6);
  });
});

describe('an entry inside of another, of which layout is known by its amount only', () => {
  const inner = handler({ durationMs: 60, forcedMs: 0 });
  const outer = handler({ durationMs: 90, forcedMs: 30 });
  const sampled: Row = {
    kind: 'samples',
    ...packSamples(0, 10, { timesUs: [100_000, 100_000], stacks: [0, 0] }),
  };
  const stack: Row = { kind: 'stack', id: 0, function: 0 };
  const scriptIn = (rows: Row[]) =>
    rangeBreakdown(recordingOf([...CODE, stack, ...rows, outer, inner, end(500)]), 0, {
      startMs: 100,
      endMs: 160,
    }).scriptOwnMs;

  it('has its share of that, with samples and without', () => {
    expect(scriptIn([])).toBeCloseTo(40, 6);
    expect(scriptIn([sampled])).toBeCloseTo(40, 6);
  });
});

describe('a dialog that was open inside an entry', () => {
  it("is a person's time, and no function's", () => {
    const recording = recordingOf([...CODE, handler({ durationMs: 3100, pauseMs: 3000 }), end(4000)]);
    const { dialogMs, scriptOwnMs } = rangeBreakdown(recording, 0, { startMs: 100, endMs: 3200 });
    expect(dialogMs).toBeCloseTo(3000, 6);
    expect(scriptOwnMs).toBeCloseTo(100, 6);
    const [first] = functionTable(recording, WIDE_LENS);
    expect(first).toMatchObject({ functionId: 0 });
    expect(first!.totalMs).toBeCloseTo(100, 6);
  });

  it('leaves the layout that was forced beside it', () => {
    const { dialogMs, layoutMs, scriptOwnMs } = blame(handler({ pauseMs: 50, forcedMs: 20 }));
    expect([dialogMs, layoutMs, scriptOwnMs].map(Math.round)).toEqual([50, 20, 30]);
  });
});
