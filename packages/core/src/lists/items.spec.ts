import { describe, expect, it } from 'vitest';
import { first, itemAt, known, last } from './items';

describe('items that must be there', () => {
  it('are given', () => {
    expect([itemAt([3, 5], 1), first([3, 5]), last(new Float64Array([3, 5]))]).toEqual([5, 3, 5]);
    expect(known(new Map([['quay', 0]]), 'quay')).toBe(0);
  });

  it('say which was asked for, and of how many, where they are not', () => {
    expect(() => itemAt([3, 5], 7)).toThrow('there is no item 7 among 2');
    expect(() => first([])).toThrow('there is no item 0 among 0');
    expect(() => last('')).toThrow('there is no item -1 among 0');
    expect(() => known(new Map([['quay', 0]]), 'deck')).toThrow('deck is not among the 1 that are known');
  });
});
