import { COUNT_SLOTS, slotOf } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { CallCounts } from './call-counts';

function counting() {
  const slots = new Int32Array(COUNT_SLOTS);
  const counts = new CallCounts(() => slots);
  const call = (id: number, times: number) => (slots[slotOf(id)]! += times);
  const take = () => {
    const { ids, counts: numbers } = counts.take();
    return [...ids].map((id, at) => [id, numbers[at]]);
  };
  return { counts, call, take };
}

describe('counts of calls', () => {
  it('are those since they were taken last, of registered functions only, in order of their ids', () => {
    const { counts, call, take } = counting();
    const first = 3 * COUNT_SLOTS - 2;
    counts.add(first, 4);
    counts.add(50, 2);
    call(first + 3, 7);
    call(51, 2);
    call(60, 9);
    expect(take()).toEqual([
      [51, 2],
      [first + 3, 7],
    ]);
    call(51, 1);
    expect(take()).toEqual([[51, 1]]);
    expect(take()).toEqual([]);
  });

  it('go on beyond the largest number a slot holds', () => {
    const { counts, call, take } = counting();
    counts.add(0, 1);
    call(0, 2 ** 31 - 1);
    take();
    call(0, 5);
    expect(take()).toEqual([[0, 5]]);
  });

  it('know functions from positions', () => {
    const { counts } = counting();
    counts.add(100, 3);
    expect([99, 100, 102, 103].map((id) => counts.has(id))).toEqual([false, true, true, false]);
  });
});
