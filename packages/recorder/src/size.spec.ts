import { brotliCompressSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { buildRecorder } from '../../../scripts/lib/build-recorder.mjs';

const MAX_BYTES = 14 * 1024;
/** What the recorder of pages that do not come through the proxy has more: the way in. */
const JOINING_BYTES = 512;

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
        'holder.js',
        'blink.js',
        'frame.js',
        'listeners.js',
        'steps.js',
        'sign.js',
        'fine.js',
        'rewritten.js',
        'tag.js',
        'tag-others.js',
      ]);
      for (const { name, text } of files) {
        const most = name!.startsWith('tag') ? MAX_BYTES + JOINING_BYTES : MAX_BYTES;
        expect(brotliCompressSync(text ?? '').length, name).toBeLessThanOrEqual(most);
        expect(text).not.toMatch(/\b(require|import)\(/);
      }
    },
    BUILD_LIMIT_MS,
  );
});
