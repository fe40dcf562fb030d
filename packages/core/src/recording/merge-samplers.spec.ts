import { describe, expect, it } from 'vitest';
import { NO_STACK } from '../format/packed-samples';
import { mergeSamplers } from './merge-samplers';

const series = (intervalMs: number, timesMs: number[], stack: number) => ({
  intervalMs,
  timesUs: timesMs.map((ms) => ms * 1000),
  stacks: timesMs.map(() => stack),
});

describe('samples of two samplers', () => {
  it('are those of the closer one where it saw script, and else those of the other', () => {
    const merged = mergeSamplers([series(10, [5, 15, 25, 35], 1), series(1, [14, 15, 16, 17], 2)]);
    expect([...merged.timesUs].map((us) => us / 1000)).toEqual([5, 14, 15, 16, 17, 25, 35]);
    expect([...merged.stacks]).toEqual([1, 2, 2, 2, 2, 1, 1]);
    expect([0, 1, 6].map((at) => merged.intervalOf(at))).toEqual([10, 1, 10]);
  });

  it('keep the other where the closer one saw nothing', () => {
    const merged = mergeSamplers([series(10, [15], 1), series(1, [14, 15, 16], NO_STACK)]);
    expect([...merged.stacks]).toContain(1);
  });

  it('keep how many came together', () => {
    const closer = { ...series(1, [16, 14], 2), together: [40, 30] };
    const merged = mergeSamplers([series(10, [5, 15, 25], 1), closer]);
    expect(Array.from(merged.timesUs, (_, at) => merged.togetherAt(at))).toEqual([1, 30, 40, 1]);
    expect([0, 1].map((at) => mergeSamplers([closer]).togetherAt(at))).toEqual([30, 40]);
    expect(mergeSamplers([series(1, [14], 2)]).together).toBeUndefined();
  });

  it('stand for their own intervals beside each other: a closer look takes no time that it did not see', () => {
    const merged = mergeSamplers([series(10, [10, 20, 30], 1), series(1, [24, 25], 2)]);
    const weights = Array.from(merged.timesUs, (_, at) => merged.weightMs(at));
    expect([...merged.timesUs].map((us) => us / 1000)).toEqual([10, 20, 24, 25, 30]);
    expect(weights).toEqual([10, 8.5, 1, 1, 9.5]);
    expect(merged.stretch(2)).toEqual({ startMs: 23.5, endMs: 24.5 });
  });
});
