import { brotliCompressSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { buildRecorder } from '../../../scripts/lib/build-recorder.mjs';

const MOST_BYTES = 14 * 1024;

const BUILD_LIMIT_MS = 60_000;

describe('what is put into a page', () => {
  it(
    'is one file of at most 14 kB as it is sent (brotli) that needs no other, with a worker no larger',
    async () => {
      const files = await buildRecorder();
      expect(files.map(({ name }) => name)).toEqual([
        'recorder.js',
        'sender.js',
        'worker.js',
        'steps.js',
        'sign.js',
        'exact.js',
      ]);
      for (const { text } of files) {
        expect(brotliCompressSync(text ?? '').length).toBeLessThanOrEqual(MOST_BYTES);
        expect(text).not.toMatch(/\b(require|import)\(/);
      }
    },
    BUILD_LIMIT_MS,
  );
});
