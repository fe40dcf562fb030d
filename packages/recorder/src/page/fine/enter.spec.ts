import {
  COUNTS,
  COUNT_SLOTS,
  ENTRY_WEIGHT,
  LOOK,
  LOOK_COUNTDOWN,
  OPEN_CALLS,
  OPEN_CALLS_LENGTH,
} from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { enter, enterUnlooked } from './enter';

let calls: Int32Array;
let counts: Int32Array;
const look = vi.fn<() => 0>(() => 0);

beforeEach(() => {
  calls = new Int32Array(OPEN_CALLS_LENGTH);
  counts = new Int32Array(COUNT_SLOTS);
  calls[LOOK_COUNTDOWN] = 10 * ENTRY_WEIGHT;
  look.mockClear();
  vi.stubGlobal(OPEN_CALLS, calls);
  vi.stubGlobal(COUNTS, counts);
  vi.stubGlobal(LOOK, look);
});
afterEach(() => vi.unstubAllGlobals());

describe.each([
  ['where looks are taken', enter, 1],
  ['where another thread takes the samples', enterUnlooked, 0],
])('entering a function %s', (_, entering, looks) => {
  it('opens a call within those that are open, and counts it', () => {
    expect([entering(7), entering(9), entering(7)]).toEqual([1, 2, 3]);
    expect([...calls.subarray(0, 4)]).toEqual([3, 7, 9, 7]);
    expect([counts[7], counts[9]]).toEqual([2, 1]);
    entering(COUNT_SLOTS + 9);
    expect(counts[9]).toBe(2);
  });

  it(`looks ${looks} times when as much was done as is done between two looks`, () => {
    for (let call = 0; call < 11; call++) entering(7);
    expect(look).toHaveBeenCalledTimes(looks);
  });
});
