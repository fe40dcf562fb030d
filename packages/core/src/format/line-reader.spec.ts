import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LineReader, type LineBytes } from './line-reader';

function linesIn(bytes: Uint8Array, cuts: readonly number[]): { line: string; at: LineBytes }[] {
  const read: { line: string; at: LineBytes }[] = [];
  const reader = new LineReader((line, at) => read.push({ line, at }));
  const places = [0, ...cuts.map((cut) => cut % (bytes.length + 1)), bytes.length].sort((a, b) => a - b);
  for (let at = 1; at < places.length; at++) reader.push(bytes.subarray(places[at - 1], places[at]));
  const rest = reader.rest();
  if (rest !== undefined) read.push(rest);
  return read;
}

const word = fc.constantFrom('', 'quay', 'Ærøskär', 'Lane “4”', '⛴', '{"kind":"end"}', 'a'.repeat(20_000));
const lineEnd = fc.constantFrom('\n', '\r\n');

describe('lines of a stream', () => {
  it('are those of the whole text, with their bytes, wherever it is cut', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(word, lineEnd), { maxLength: 30 }),
        word,
        fc.array(fc.nat(), { maxLength: 6 }),
        (written, last, cuts) => {
          const text = written.map((parts) => parts.join('')).join('') + last;
          const read = linesIn(new TextEncoder().encode(text), cuts);
          const expected = [...written.map(([line]) => line), ...(last === '' ? [] : [last])];
          expect(read.map(({ line }) => line)).toEqual(expected);
          for (const { line, at } of read) {
            expect(new TextDecoder().decode(at.bytes.subarray(at.from, at.to))).toBe(line);
          }
        },
      ),
    );
  });

  it('end where the bytes say so, also in text that is none', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(10, 13, 65, 0xc3, 0xe2, 0xff, 0x80), { maxLength: 60 }),
        (codes) => {
          const read = linesIn(Uint8Array.from(codes), []);
          const ends = codes.filter((code) => code === 10).length;
          expect(read.length).toBe(codes.length > 0 && codes.at(-1) !== 10 ? ends + 1 : ends);
          for (const { line, at } of read.slice(0, ends)) {
            expect(line).toBe(new TextDecoder().decode(at.bytes.subarray(at.from, at.to)));
          }
        },
      ),
    );
  });

  it('are refused when one is too long to be a line', () => {
    const reader = new LineReader(() => undefined);
    const piece = new Uint8Array(17 * 1024 * 1024).fill(65);
    expect(() => [1, 2, 3, 4].forEach(() => reader.push(piece))).toThrow('longer than');
  });
});
