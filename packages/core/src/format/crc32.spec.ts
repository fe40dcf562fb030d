import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromBase64, toBase64 } from './base64';
import { crc32 } from './crc32';

describe('the checksum', () => {
  it('is that of the standard’s test value', () => {
    expect(crc32(new TextEncoder().encode('123456789'))).toBe(0xcbf43926);
  });

  it('of pieces, one after the other, is that of the whole', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), fc.nat(200), (bytes, cut) => {
        const [first, second] = [bytes.subarray(0, cut), bytes.subarray(cut)];
        expect(crc32(second, crc32(first))).toBe(crc32(bytes));
      }),
    );
  });

  it('changes with any bit', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 60 }),
        fc.nat(),
        fc.nat(7),
        (bytes, place, bit) => {
          const flipped = bytes.slice();
          flipped[place % bytes.length]! ^= 1 << bit;
          expect(crc32(flipped)).not.toBe(crc32(bytes));
        },
      ),
    );
  });
});

describe('base64', () => {
  it('gives back the bytes, and agrees with the platform’s own', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 90 }), (bytes) => {
        const text = toBase64(bytes);
        expect(text).toBe(Buffer.from(bytes).toString('base64'));
        expect(fromBase64(text)).toEqual(bytes);
      }),
    );
  });

  it('refuses what is none, with the place', () => {
    expect(() => fromBase64('abc')).toThrow('3 characters');
    expect(() => fromBase64('ab?d')).toThrow('position 2');
    expect(() => fromBase64('ab=d')).toThrow('position 2');
    expect(() => fromBase64('abéd')).toThrow('position 2');
  });
});
