import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BatchOrder } from './batch-order';

const batch = (text: string) => ({ lines: text.split('') });
const textOf = (batches: readonly { lines: readonly string[] }[]) =>
  batches.map(({ lines }) => lines.join(''));

describe('the order of batches', () => {
  it('waits for a missing one, and can give it up', () => {
    const order = new BatchOrder(0);
    const take = (sequence: number, text: string) => textOf(order.take(sequence, batch(text)));
    expect(take(0, 'a')).toEqual(['a']);
    expect(take(2, 'c')).toEqual([]);
    expect(take(4, 'e')).toEqual([]);
    const { missing, ready } = order.skipMissing();
    expect([missing, textOf(ready)]).toEqual([1, ['c']]);
    expect(take(3, 'd')).toEqual(['d', 'e']);
    expect(order.skipMissing()).toEqual({ missing: 0, ready: [] });
    expect(take(1, 'b')).toEqual([]);
  });

  it('hands on what a batch holds beyond what came before by its number, and nothing twice', () => {
    const order = new BatchOrder(0);
    const take = (sequence: number, text: string) => textOf(order.take(sequence, batch(text)));
    expect(take(0, 'ab')).toEqual(['ab']);
    expect(take(0, 'abc')).toEqual(['c']);
    expect(take(0, 'abc')).toEqual([]);
    expect(take(0, 'ab')).toEqual([]);
    expect(take(0, 'axyz')).toEqual([]);
    expect(take(1, 'd')).toEqual(['d']);
    expect(take(0, 'abcd')).toEqual(['d']);
  });

  it('hands on each batch once, in order, in whatever order and however often they come', () => {
    const arrivals = fc.array(fc.nat(19), { maxLength: 200 }).map((some) => [...some, ...Array(20).keys()]);
    fc.assert(
      fc.property(arrivals, (sequences) => {
        const order = new BatchOrder(0);
        const handedOn = sequences.flatMap((at) => order.take(at, { lines: [String(at)] }));
        expect(handedOn.map(({ lines }) => lines[0])).toEqual([...Array(20).keys()].map(String));
      }),
    );
  });
});
