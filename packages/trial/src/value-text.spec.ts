import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { valueText } from './value-text';

describe('a value as text', () => {
  it('is the same for the same value, whichever order its names stand in', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const turned = (of: unknown): unknown =>
          typeof of !== 'object' || of === null
            ? of
            : Array.isArray(of)
              ? of.map(turned)
              : Object.fromEntries(
                  Object.entries(of)
                    .reverse()
                    .map(([name, one]) => [name, turned(one)]),
                );
        expect(valueText(turned(value))).toEqual(valueText(value));
        expect(valueText(value).isWhole).toBe(true);
      }),
    );
  });

  it('tells apart what is not the same', () => {
    const values = [
      0,
      -0,
      '0',
      NaN,
      null,
      undefined,
      0n,
      [],
      {},
      [0],
      { a: 0 },
      new Map(),
      new Set(),
      new Date(0),
    ];
    const more = [
      new Map([[1, 2]]),
      new Set([1]),
      /a/g,
      /a/,
      new Uint8Array([1]),
      new Int8Array([1]),
      [undefined],
    ];
    const texts = [...values, ...more].map((value) => valueText(value).text);
    expect(new Set(texts).size).toBe(texts.length);
  });

  it('says what cannot be told whole: functions, promises, and what is too long', () => {
    for (const value of [() => 1, [Promise.resolve()], Symbol('quay'), 'x'.repeat(3_000_000).split('')])
      expect(valueText(value).isWhole).toBe(false);
  });

  it('ends where a value holds itself', () => {
    const sailing: Record<string, unknown> = { name: 'Friday' };
    sailing['self'] = [sailing];
    expect(valueText(sailing).text).toBe('{name: "Friday", self: [[itself, 2 up]]}');
  });

  it('names classes', () => {
    class Fare {
      euros = 3;
    }
    expect(valueText(new Fare()).text).toBe('Fare {euros: 3}');
  });
});
