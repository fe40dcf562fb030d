import { packSamples, type Row } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { LiveTasks } from './live-tasks';

const task = (startMs: number, durationMs: number, thread = 0): Row => ({
  kind: 'task',
  thread,
  startMs,
  durationMs,
  source: 'longtask',
});
const handler = (startMs: number, durationMs: number, more: object = {}): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'user-callback',
  invoker: 'timer',
  ...more,
});
const listed = (...rows: Row[]) => {
  const tasks = new LiveTasks();
  for (const row of rows) tasks.take(row);
  return tasks.latest();
};

describe('the long tasks while a recording runs', () => {
  it('are listed newest first, with the code of their longest entry, told of before or after', () => {
    const found = listed(
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 4, name: 'onBoardAll', source: 0, line: 12, column: 1 },
      handler(100, 90, { function: 4 }),
      handler(191, 8),
      task(99, 101),
      task(500, 80),
      handler(501, 78),
    );
    expect(found).toEqual([
      { startMs: 500, durationMs: 80, name: 'entered by timer' },
      { startMs: 99, durationMs: 101, name: 'onBoardAll', place: 'desk.js:12' },
    ]);
  });

  it('name the function that samples saw most in them, before what was entered', () => {
    const timesUs = [1100, 1200, 1300, 1400].map((ms) => ms * 1000);
    const found = listed(
      { kind: 'function', id: 0, name: 'onBoardAll' },
      { kind: 'function', id: 1, name: 'bendingOfPair' },
      { kind: 'stack', id: 0, function: 0 },
      { kind: 'stack', id: 1, function: 1, parent: 0 },
      handler(1000, 300, { function: 0 }),
      task(1000, 350),
      { kind: 'samples', ...packSamples(0, 100, { timesUs, stacks: [0, 1, 1, -1] }) },
    );
    expect(found).toEqual([{ startMs: 1000, durationMs: 350, name: 'bendingOfPair', place: '' }]);
  });

  it('say nothing of code that is not known, and leave other threads out', () => {
    expect(listed(task(0, 60), task(10, 70, 3))).toEqual([{ startMs: 0, durationMs: 60 }]);
  });

  it('are the latest of many', () => {
    const found = listed(...Array.from({ length: 50 }, (_, at) => task(at * 100, 60)));
    expect(found).toHaveLength(20);
    expect(found[0]!.startMs).toBe(4900);
  });
});
