import { seededRandom } from '../statistics/random';

const HUGE = [
  '1e999',
  '-1e308',
  '99999999999999999999',
  '[[[[[[[[[[',
  '"\\u0000"',
  'null',
  '{"kind":"stack"}',
];

/** Damages the bytes of a file in one of many ways: flips, cuts, repeats, swaps, and values no emitter would write. */
export function mutate(file: Uint8Array, seed: number): Uint8Array {
  const bytes = new Uint8Array(file);
  const random = seededRandom(seed);
  const below = (limit: number) => Math.floor(random() * limit);
  const place = below(bytes.length);
  switch (below(7)) {
    case 0: {
      const flipped = bytes;
      for (let times = 1 + below(4); times > 0; times--) flipped[below(bytes.length)]! ^= 1 << below(8);
      return flipped;
    }
    case 1:
      return bytes.slice(0, place);
    case 2:
      return bytes.slice(place);
    case 3: {
      const length = below(Math.min(2000, bytes.length - place));
      return joined(bytes.subarray(0, place), bytes.subarray(place + length));
    }
    case 4: {
      const end = Math.min(bytes.length, place + below(2000));
      return joined(bytes.subarray(0, end), bytes.subarray(place));
    }
    case 5: {
      const inserted = new TextEncoder().encode(HUGE[below(HUGE.length)]!);
      return joined(bytes.subarray(0, place), inserted, bytes.subarray(place));
    }
    default: {
      const digits = bytes;
      for (let at = place, changed = 0; at < digits.length && changed < 6; at++) {
        const isDigit = digits[at]! >= 48 && digits[at]! <= 57;
        if (!isDigit) continue;
        digits[at] = 48 + below(10);
        changed++;
      }
      return digits;
    }
  }
}

function joined(...pieces: Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
