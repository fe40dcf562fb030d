import { describe, expect, it } from 'vitest';
import { packCounts } from '../format/packed-counts';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { recordingOf } from '../testing/arbitrary-recording';
import { anatomyOf } from './anatomy';
import { becauseOf } from '../detectors/because';
import { becauseText, timesBudget } from './sentence';

const CODE: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
  { kind: 'function', id: 1, name: 'trimOfPair', source: 0 },
  { kind: 'function', id: 2, name: 'pollDepartures', source: 0 },
  { kind: 'stack', id: 0, function: 0 },
  { kind: 'stack', id: 1, function: 1, parent: 0 },
  { kind: 'stack', id: 2, function: 2 },
];
const every10 = (startMs: number, endMs: number, stack: number) =>
  Array.from(
    { length: Math.floor((endMs - startMs) / 10) },
    (_, index) => [startMs + 5 + index * 10, stack] as const,
  );
const samples = (pairs: (readonly [number, number])[]): Row => ({
  kind: 'samples',
  ...packSamples(0, 10, { timesUs: pairs.map(([ms]) => ms * 1000), stacks: pairs.map(([, stack]) => stack) }),
});
const click = (startMs: number, endMs: number, handling: [number, number]): Row => ({
  kind: 'input',
  thread: 0,
  startMs,
  durationMs: endMs - startMs,
  type: 'click',
  interaction: 1,
  target: 'button “Board all”',
  processingStartMs: handling[0],
  processingEndMs: handling[1],
});
const handler = (startMs: number, endMs: number, id: number, more: object = {}): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs: endMs - startMs,
  type: 'event-listener',
  invoker: 'BUTTON',
  function: id,
  ...more,
});
const say = (...rows: Row[]) => {
  const recording = recordingOf([...CODE, ...rows]);
  const [worst] = findStings(recording, DEFAULT_THRESHOLDS);
  return becauseText(becauseOf(recording, anatomyOf(recording, worst!)));
};

describe('the because sentence', () => {
  it('tells of a tap that waited behind a timer, was handled and drawn', () => {
    expect(
      say(
        click(1000, 1612, [1044, 1521]),
        handler(950, 1044, 2),
        handler(1044, 1521, 0),
        samples([
          ...every10(950, 1040, 2),
          ...every10(1044, 1200, 0),
          ...every10(1204, 1521, 1),
          ...every10(1521, 1612, -1),
        ]),
      ),
    ).toBe(
      'The screen answered the tap on button “Board all” after 612 ms, three times the budget of 200 ms. It waited 44 ms behind pollDepartures. Then onBoardAll ran for 477 ms: by samples about 67 % of it in trimOfPair. The picture came about 88 ms later, while the thread was free for most of that.',
    );
  });

  it('tells how often a function was called at most, where calls were counted once a second', () => {
    const said = (startMs: number, durationMs: number) =>
      say(
        click(1000, 1500, [1000, 1490]),
        handler(1000, 1490, 0),
        samples([...every10(1000, 1490, 1), ...every10(1490, 1500, -1)]),
        { kind: 'counts', ...packCounts(0, startMs, durationMs, { functions: [0, 1], counts: [1, 33_184] }) },
      );
    expect(said(600, 1000)).toContain('in trimOfPair, called up to 33,184 times.');
    expect(said(1100, 300)).toContain('in trimOfPair, called 33,184 times.');
    expect(said(1600, 1000)).toContain('in trimOfPair.');
  });

  it('tells of forced layout by its amount', () => {
    expect(
      say(
        click(0, 300, [2, 290]),
        handler(2, 290, 0, { forcedMs: 120 }),
        samples(every10(2, 290, 0)),
        samples(every10(290, 310, -1)),
      ),
    ).toBe(
      'The screen answered the tap on button “Board all” after 300 ms, over the budget of 200 ms. onBoardAll ran for 288 ms, by samples about 58 % of it in its own code, and 120 ms in layout forced from script.',
    );
  });

  it('claims no more than was seen where the engine gave no stack', () => {
    expect(
      say(
        click(0, 400, [0, 400]),
        handler(0, 400, 0),
        samples([...every10(0, 60, 1), ...every10(60, 400, -1)]),
      ),
    ).toBe(
      'The screen answered the tap on button “Board all” after 400 ms, twice the budget of 200 ms. onBoardAll ran for 400 ms: probably about 100 % of it in trimOfPair. For 340 ms of script no stack was sampled; what ran is inferred from the samples around it.',
    );
  });

  it('says what is unexplained', () => {
    expect(say({ kind: 'task', thread: 0, startMs: 0, durationMs: 77, source: 'longtask' })).toBe(
      'The main thread was taken for 77 ms, over the budget of 50 ms. Handling took 77 ms, in code that was not seen. Of all this, 77 ms are unexplained. A recording in fine mode tells whether it was script.',
    );
  });

  it('puts a ratio as a colleague would', () => {
    expect(
      [210, 300, 400, 440, 590, 1000, 3000].map((feltMs) =>
        timesBudget(feltMs, 200).replace(/ the budget.*/, ''),
      ),
    ).toEqual(['just over', 'over', 'twice', 'more than twice', 'three times', 'five times', '15 times']);
  });
});

describe('an anatomy', () => {
  it('has phases that follow each other and sum, with the parts of the blame, to the felt delay', () => {
    const recording = recordingOf([
      ...CODE,
      click(1000, 1612, [1044, 1521]),
      handler(1044, 1521, 0),
      samples(every10(1000, 1600, 1)),
    ]);
    const [sting] = findStings(recording, DEFAULT_THRESHOLDS);
    const { phases, blame } = anatomyOf(recording, sting!);
    expect(phases.map(({ name, startMs, endMs }) => [name, startMs, endMs])).toEqual([
      ['waiting', 1000, 1044],
      ['handling', 1044, 1521],
      ['drawing', 1521, 1612],
    ]);
    const { totalMs, ...parts } = blame;
    expect(Object.values(parts).reduce((sum, ms) => sum + ms, 0)).toBeCloseTo(612, 6);
    expect(totalMs).toBeCloseTo(612, 6);
  });
});
