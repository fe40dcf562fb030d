import { text } from 'node:stream/consumers';
import { brotliCompressSync, deflateRawSync, deflateSync, gzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { decompressor, readableCodings } from './decompress';

const TEXT = 'Lane 3, deck 2. '.repeat(500);
/** What `ROWS` becomes by zstd, which cannot be made here. */
const ZSTD_ROWS =
  'KLUv/QRotQ4AJuJFE5ApObBW+Owi+9q7ZUUk8EPG04BGAD4APACyms6m8VWsDCq3ewwtbXkpj+GFZj9xXBzi1Jg5at1wRKnfujx5pUT4eRHwNzJFoEWlIkDXqghsgAOiGAiCoVAERmFIDAQB5z9jWkQjVKchJbN2uHVak/GwRqRCr1szoRKqOceHPNNP1ruZpPLtN4uGJWnYRSYaI8PJ5exQR0Nc5JKp+gGucYYk6Vo1Pyiy8ZY+ph/OpoqwfntoRV9dpmu0YzOxLO/I0HIi6Vg+IqeoiKb2EhneRp44+pdK9s2KhRaAA6LY+7IrlPExQm//kRoTzxrF2WwoNNvW80jK/kfK8rcz+hhVo+LrDZOTUVNr7s8i5N9NucYfGkm55jYBgOuoIIrj0G5QK0k1BhEgCAFCgNX34+nwMTvlpauR3ebkDEuAF2VudyWcM3vqOktJrVVzCbZ2ns957g/we0tNwn1PTrhgz+ReSnKOcO1wCBHvbm6//d5pwi3Ch9QDYJJujoHiE8w6BaZ29HgmrZIm7wyYXYDZ7qmLCkyJPsZz58Pep8KL4CgSQGDeYYIHtDfDEJ30gHVNccfZvEICMXyzd+sUPGB77/ronDFsYSYseyBegYJXBQLWRaw7wFJRur2K';
const ROWS = Array.from(
  { length: 120 },
  (_, at) => `Lane ${(at * at) % 97}, deck ${at % 5}, ${(at * 7919) % 1000} kg\n`,
).join('');
/** A frame of 64 MB of one byte, and how it begins: blocks of 128 kB (RFC 8878, section 3.1.1). */
const zstdFrame = (window: number, blocks: number) =>
  Buffer.concat([
    Buffer.from([0x28, 0xb5, 0x2f, 0xfd, 0, window]),
    ...Array.from({ length: blocks }, (_, at) => {
      const header = (131_072 << 3) | (1 << 1) | (at === blocks - 1 ? 1 : 0);
      return Buffer.from([header & 0xff, (header >> 8) & 0xff, header >> 16, 0x20]);
    }),
  ]);
const CODED = {
  gzip: ['gzip', gzipSync(TEXT)],
  br: ['br', brotliCompressSync(TEXT)],
  'deflate with a header': ['deflate', deflateSync(TEXT)],
  'deflate without one, as many servers send it': ['deflate', deflateRawSync(TEXT)],
  none: [undefined, Buffer.from(TEXT)],
} as const;

describe('a content coding', () => {
  it.each(Object.entries(CODED))(
    'is undone, however it comes in pieces: %s',
    async (_name, [coding, bytes]) => {
      for (const size of [1, 7, bytes.length]) {
        const stream = decompressor(coding)!;
        const read = text(stream);
        for (let at = 0; at < bytes.length; at += size) stream.write(bytes.subarray(at, at + size));
        stream.end();
        expect(await read).toBe(TEXT);
      }
    },
  );

  it('is undone by zstd, however it comes in pieces, and one frame after the other', async () => {
    const bytes = Buffer.from(ZSTD_ROWS, 'base64');
    for (const size of [1, 13, bytes.length]) {
      const stream = decompressor('zstd')!;
      const read = text(stream);
      const twice = Buffer.concat([bytes, bytes]);
      for (let at = 0; at < twice.length; at += size) stream.write(twice.subarray(at, at + size));
      stream.end();
      expect(await read).toBe(ROWS + ROWS);
    }
  });

  it('is left alone where a frame wants more memory than it may have, and where it is none', async () => {
    for (const bytes of [zstdFrame(0xf8, 4), zstdFrame(0xf8, 1), Buffer.from('no frame at all')]) {
      const stream = decompressor('zstd')!;
      stream.end(bytes);
      await expect(text(stream)).rejects.toThrow();
    }
  });

  it.each([
    ['deflate', deflateRawSync(Buffer.alloc(64 * 1024 * 1024))],
    ['zstd', zstdFrame(0x38, 512)],
  ])('is undone no faster than it is read: %s', async (coding, bomb) => {
    const stream = decompressor(coding)!;
    stream.end(bomb);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(stream.readableLength).toBeLessThan(4 * 1024 * 1024);
    let length = 0;
    for await (const piece of stream as AsyncIterable<Buffer>) length += piece.length;
    expect(length).toBe(64 * 1024 * 1024);
  });

  it('that is damaged is an error of the stream', async () => {
    const stream = decompressor('deflate')!;
    stream.end(Buffer.from([0x07, 0xff, 0xff, 0xff]));
    await expect(text(stream)).rejects.toThrow();
  });

  it('is asked for where the browser takes it and it can be undone', () => {
    expect(readableCodings('gzip, deflate, br, zstd, dcb')).toBe('gzip, deflate, br, zstd');
    expect(readableCodings('gzip;q=0.5, tides, identity')).toBe('gzip;q=0.5, identity');
    expect(readableCodings('')).toBe('identity');
  });

  it('that is not known is none', () => {
    expect(decompressor('tides')).toBeUndefined();
  });
});
