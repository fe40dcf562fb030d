import { FIRST_EXACT_FUNCTION, type Row } from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { CallPacker } from './call-packer';
import { Watchdog } from './watchdog';

let watchdog: Watchdog;
let calls: CallPacker;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance', 'setTimeout'] });
  calls = new CallPacker();
  const functions = [
    ['desk.js', 0, 1, 1, 0],
    ['onBoardAll', 0, 7, 1, 0],
    ['bending', 0, 24, 1, 0],
  ];
  calls.register(
    FIRST_EXACT_FUNCTION,
    JSON.stringify({ url: 'http://localhost/desk.js', files: ['desk.js'], functions }),
  );
  watchdog = new Watchdog(calls, { openPositions: () => [], stackRows: () => ({ rows: [], stack: -1 }) });
});
afterEach(() => vi.useRealTimers());

const tick = (watch = true): Row[] =>
  watchdog.tick({
    type: 'tick',
    recordingId: 'friday',
    originMs: 0,
    atMs: performance.now(),
    timeOrigin: performance.timeOrigin,
    watch,
  });
const pass = (ms: number) => vi.advanceTimersByTime(ms);

describe('the watchdog', () => {
  it('is quiet while the page ticks', () => {
    for (let second = 0; second < 10; second++) {
      expect(tick()).toEqual([]);
      pass(100);
      expect(watchdog.look()).toBeUndefined();
    }
  });

  it('tells of a hang within half a second of its threshold, again while it lasts, and of its end', () => {
    tick();
    pass(100);
    tick();
    let toldAfterMs = 0;
    for (let ms = 0; ms <= 1600 && toldAfterMs === 0; ms += 100) {
      pass(100);
      if (watchdog.look() !== undefined) toldAfterMs = ms + 100;
    }
    expect(toldAfterMs).toBeGreaterThan(250);
    expect(toldAfterMs).toBeLessThanOrEqual(750);
    expect(watchdog.look()).toBeUndefined();
    pass(500);
    expect(watchdog.look()!.rows).toMatchObject([{ kind: 'hang', startMs: 100, ended: false }]);
    pass(300);
    expect(tick()).toMatchObject([
      { kind: 'hang', startMs: 100, ended: true, durationMs: toldAfterMs + 800 },
    ]);
    expect(tick()).toEqual([]);
  });

  it('does not watch a page that is hidden, paused or ending', () => {
    tick(false);
    pass(5000);
    expect(watchdog.look()).toBeUndefined();
  });

  it('tells the calls it hangs in, from shared memory where there is some, else from what was handed over', () => {
    watchdog.open = Int32Array.of(2, FIRST_EXACT_FUNCTION + 1, FIRST_EXACT_FUNCTION + 2, 0, 0);
    tick();
    pass(600);
    const { rows } = watchdog.look()!;
    const names = rows.flatMap((row) => (row.kind === 'function' ? [row.originalName] : []));
    expect(names).toEqual(['onBoardAll', 'bending']);
    const stacks = rows.filter((row) => row.kind === 'stack');
    expect(stacks[1]).toMatchObject({ function: FIRST_EXACT_FUNCTION + 2, parent: stacks[0]!.id });
    expect(rows.at(-1)).toMatchObject({ kind: 'hang', stack: stacks[1]!.id });
  });
});
