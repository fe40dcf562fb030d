import { describe, expect, it } from 'vitest';
import { CALL_END, packCalls } from '../format/packed-calls';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { end } from '../testing/desk-rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';

const CODE: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'tick', source: 0 },
  { kind: 'function', id: 1, name: 'weighForever', source: 0 },
  { kind: 'source', id: 1, url: 'http://localhost:4781/__nettle-patch/recorder.js' },
  { kind: 'function', id: 2, name: 'flush', source: 1 },
  { kind: 'stack', id: 0, function: 1 },
];
const stings = (...rows: Row[]) =>
  findStings(recordingOf([...CODE, ...rows, end(9000)]), DEFAULT_THRESHOLDS).map(
    ({ kind, label, startMs, feltMs }) => [kind, label, Math.round(startMs), Math.round(feltMs)],
  );
const task = (startMs: number, durationMs: number): Row => ({
  kind: 'task',
  thread: 0,
  startMs,
  durationMs,
  source: 'longtask',
});
const hang = (startMs: number, durationMs: number, more: object = {}): Row => ({
  kind: 'hang',
  thread: 0,
  startMs,
  durationMs,
  ended: false,
  ...more,
});
const handler = (startMs: number, durationMs: number, functionId: number, more: object = {}): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'user-callback',
  invoker: 'TimerHandler:setInterval',
  function: functionId,
  ...more,
});

describe('a hang that the watchdog saw', () => {
  it('stays where a short task touches its beginning, from when that task was over', () => {
    expect(stings(task(1000, 60), hang(980, 5000))).toEqual([
      ['hang', 'Hang in code that was not seen', 1060, 4920],
      ['long-task', 'Work of the browser or short scripts', 1000, 60],
    ]);
  });

  it('is not blamed on a bystander that took a small part of it', () => {
    expect(stings(handler(1000, 20, 0), hang(980, 5000))).toEqual([
      ['hang', 'Hang in code that was not seen', 1020, 4960],
    ]);
  });

  it('is named by the stack it was seen in', () => {
    const [sting] = stings(
      handler(1000, 20, 0),
      hang(980, 1000, { stack: 0 }),
      hang(980, 5000, { stack: 0 }),
    );
    expect(sting!.slice(0, 2)).toEqual(['hang', 'Script weighForever']);
  });

  it('is none where a task that has ended accounts for it', () => {
    expect(stings(task(1080, 2900), hang(1000, 2980, { ended: true })).map(([kind]) => kind)).toEqual([
      'hang',
    ]);
  });
});

describe('script that no task was told of', () => {
  it('is a task all the same, told by its exact calls', () => {
    const calls: Row = {
      kind: 'calls',
      ...packCalls(0, { timesUs: [2_000_000, 2_260_000], functions: [1, CALL_END] }),
    };
    expect(stings(calls)).toEqual([['hang', 'Script weighForever', 2000, 260]]);
  });

  it('is no second one where its task was told', () => {
    const calls: Row = {
      kind: 'calls',
      ...packCalls(0, { timesUs: [2_000_000, 2_260_000], functions: [1, CALL_END] }),
    };
    expect(stings(calls, task(1990, 280))).toEqual([['hang', 'Script weighForever', 1990, 280]]);
  });
});

describe('what is not the code’s time', () => {
  it('makes no hang: a dialog that was open for three seconds', () => {
    expect(stings(task(1000, 3040), handler(1000, 3040, 0, { pauseMs: 3000 }))).toEqual([]);
  });

  it("makes no sting of the app's: the recorder's own timer", () => {
    expect(stings(task(1000, 930), handler(1001, 920, 2))).toEqual([]);
  });

  it("is the page's all the same where the recorder only timed the layout that was due", () => {
    const probe: Row = {
      kind: 'render',
      thread: 0,
      startMs: 1010,
      durationMs: 880,
      styleMs: 400,
      layoutMs: 460,
      paintMs: 20,
    };
    expect(stings(task(1000, 930), handler(1005, 900, 2), probe)).toEqual([
      ['hang', 'Work of the browser or short scripts', 1000, 930],
    ]);
  });
});
