import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { recordingOf } from '../testing/arbitrary-recording';
import { anatomyOf } from './anatomy';

const ROWS: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
  { kind: 'function', id: 0, name: 'pollDepartures', source: 0 },
  { kind: 'function', id: 1, name: 'onBoardAll', source: 0 },
];
const handler = (startMs: number, durationMs: number, id: number, invoker: string): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'user-callback',
  invoker,
  function: id,
});
const task = (startMs: number, durationMs: number): Row => ({
  kind: 'task',
  thread: 0,
  startMs,
  durationMs,
  source: 'longtask',
});
const TAP: Row = {
  kind: 'input',
  thread: 0,
  startMs: 1000,
  durationMs: 480,
  type: 'click',
  interaction: 1,
  target: 'button “Board all”',
  processingStartMs: 1300,
  processingEndMs: 1460,
};
const blockers = (...rows: Row[]) => {
  const recording = recordingOf([...ROWS, ...rows]);
  const [sting] = findStings(recording, DEFAULT_THRESHOLDS);
  return anatomyOf(recording, sting!).inTheWay;
};

describe('what stood in the way of an input', () => {
  it('is the busy stretch it waited for, from before the input on, by its longest entry', () => {
    const found = blockers(
      handler(900, 390, 0, 'timer'),
      task(900, 390),
      TAP,
      handler(1300, 160, 1, 'BUTTON.onclick'),
      task(1300, 160),
    );
    expect(found).toEqual([{ startMs: 1000, endMs: 1290, beganMs: 900, entry: 'timer', functionId: 0 }]);
  });

  it('is told without a name where no entry into script is known', () => {
    const found = blockers(task(900, 390), TAP, handler(1300, 160, 1, 'BUTTON.onclick'), task(1300, 160));
    expect(found).toEqual([{ startMs: 1000, endMs: 1290, beganMs: 900 }]);
  });

  it('never reaches into the handling of the input', () => {
    const found = blockers(task(900, 560), TAP, handler(1300, 160, 1, 'BUTTON.onclick'));
    expect(found.every(({ endMs }) => endMs <= 1300)).toBe(true);
    expect(found).not.toEqual([]);
  });

  it('is nothing where nothing is known to have run', () => {
    expect(blockers(TAP, handler(1300, 160, 1, 'BUTTON.onclick'))).toEqual([]);
  });
});
