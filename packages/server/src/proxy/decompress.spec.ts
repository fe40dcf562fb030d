import { text } from 'node:stream/consumers';
import { brotliCompressSync, deflateRawSync, deflateSync, gzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { decompressor } from './decompress';

const TEXT = 'Lane 3, deck 2. '.repeat(500);
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

  it('is undone no faster than it is read', async () => {
    const bomb = deflateRawSync(Buffer.alloc(64 * 1024 * 1024));
    const stream = decompressor('deflate')!;
    stream.end(bomb);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(stream.readableLength).toBeLessThan(1024 * 1024);
    let length = 0;
    for await (const piece of stream as AsyncIterable<Buffer>) length += piece.length;
    expect(length).toBe(64 * 1024 * 1024);
  });

  it('that is damaged is an error of the stream', async () => {
    const stream = decompressor('deflate')!;
    stream.end(Buffer.from([0x07, 0xff, 0xff, 0xff]));
    await expect(text(stream)).rejects.toThrow();
  });

  it('that is not known is none', () => {
    expect(decompressor('tides')).toBeUndefined();
  });
});
