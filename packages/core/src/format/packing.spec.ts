import fc from 'fast-check';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { fromBase64, toBase64 } from './base64';
import { crc32 } from './crc32';
import { NO_STACK, packSamples, unpackSamples } from './packed-samples';
import { VarintReader, VarintWriter } from './varint';

describe('base64', () => {
  it('agrees with the examples of RFC 4648, section 10', () => {
    const examples = {
      '': '',
      f: 'Zg==',
      fo: 'Zm8=',
      foo: 'Zm9v',
      foob: 'Zm9vYg==',
      fooba: 'Zm9vYmE=',
      foobar: 'Zm9vYmFy',
    };
    for (const [text, coded] of Object.entries(examples)) {
      const bytes = new TextEncoder().encode(text);
      expect(toBase64(bytes)).toBe(coded);
      expect([...fromBase64(coded)]).toEqual([...bytes]);
    }
  });

  it('gives back what it was given', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        expect([...fromBase64(toBase64(bytes))]).toEqual([...bytes]);
      }),
    );
  });

  it('names the place of a character that does not belong there', () => {
    expect(() => fromBase64('Zm9*')).toThrow('position 3');
    expect(() => fromBase64('Zm9-')).toThrow('position 3');
    expect(() => fromBase64('Zm9')).toThrow('not a multiple of 4');
  });

  describe('without the help of the engine', () => {
    afterEach(() => vi.unstubAllGlobals());

    it('gives back what it was given, and refuses the same', () => {
      vi.stubGlobal('Buffer', undefined);
      fc.assert(
        fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
          expect([...fromBase64(toBase64(bytes))]).toEqual([...bytes]);
        }),
      );
      expect(() => fromBase64('Zm9*')).toThrow('position 3');
    });
  });
});

describe('varints', () => {
  it('give back any whole number a double can hold', () => {
    fc.assert(
      fc.property(fc.array(fc.maxSafeNat()), (numbers) => {
        const writer = new VarintWriter();
        for (const number of numbers) writer.write(number);
        const reader = new VarintReader(writer.bytes());
        expect(numbers.map(() => reader.read())).toEqual(numbers);
        expect(reader.done).toBe(true);
      }),
    );
  });

  it('refuse what they cannot hold, and damaged bytes, without looping', () => {
    expect(() => new VarintWriter().write(-1)).toThrow(RangeError);
    expect(() => new VarintReader(Uint8Array.of(0x80, 0x80)).read()).toThrow('ends inside a number');
    expect(() => new VarintReader(new Uint8Array(20).fill(0xff)).read()).toThrow('too large');
  });
});

describe('CRC-32', () => {
  it('agrees with the check value of the standard', () => {
    expect(crc32(new TextEncoder().encode('123456789')).toString(16)).toBe('cbf43926');
  });

  it('is the same in one piece or in two', () => {
    fc.assert(
      fc.property(fc.uint8Array(), fc.uint8Array(), (a, b) => {
        expect(crc32(b, crc32(a))).toBe(crc32(Uint8Array.of(...a, ...b)));
      }),
    );
  });
});

describe('packed samples', () => {
  it('agree with the vector of the documentation', () => {
    const packed = packSamples(0, 10, { timesUs: [1000, 11_200, 21_300], stacks: [NO_STACK, 0, 5] });
    expect(packed).toEqual({ thread: 0, startMs: 1, intervalMs: 10, count: 3, data: 'AADYTwH0TgY=' });
  });

  it('give back times to the microsecond and stacks', () => {
    const ascending = fc.array(fc.integer({ min: 0, max: 1e9 })).map((times) => times.sort((a, b) => a - b));
    fc.assert(
      fc.property(ascending, fc.array(fc.integer({ min: NO_STACK, max: 5000 })), (times, some) => {
        const stacks = times.map((_, index) => some[index] ?? NO_STACK);
        expect(unpackSamples(packSamples(0, 10, { timesUs: times, stacks }))).toEqual({
          timesUs: times,
          stacks,
        });
      }),
    );
  });

  it('give back how many came together, and say nothing where all came one by one', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 4 })), (together) => {
        const columns = { timesUs: together.map((_, at) => at), stacks: together.map(() => 3) };
        const row = packSamples(0, 1, { ...columns, together });
        const isAlone = together.every((size) => size === 1);
        expect('together' in row).toBe(!isAlone);
        expect(unpackSamples(row)).toEqual(isAlone ? columns : { ...columns, together });
      }),
    );
  });

  it('refuse a count that does not fit, without allocating for it', () => {
    const row = packSamples(0, 10, { timesUs: [0], stacks: [1] });
    expect(() => unpackSamples({ ...row, count: 2_000_000_000 })).toThrow('holds 1 samples');
    const together = (...numbers: number[]) => {
      const writer = new VarintWriter();
      for (const number of numbers) writer.write(number);
      return { ...row, together: toBase64(writer.bytes()) };
    };
    expect(() => unpackSamples(together(2_000_000_000, 2))).toThrow('more samples than the 1 of the row');
    expect(() => unpackSamples(together())).toThrow('tells of 0 samples, "count" says 1');
    expect(() => unpackSamples(together(1, 0))).toThrow('came of no measurement');
    expect(() => unpackSamples(together(1))).toThrow('ends inside a number');
  });
});
