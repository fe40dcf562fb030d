import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { expect, it } from 'vitest';

const MOST_BYTES = 14 * 1024;

it('the recorder is one file of at most 14 kB compressed, and needs no other', async () => {
  const entry = fileURLToPath(new URL('main.ts', import.meta.url));
  const built = await build({
    entryPoints: [entry],
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    write: false,
  });
  expect(built.outputFiles).toHaveLength(1);
  expect(gzipSync(built.outputFiles[0]!.contents).length).toBeLessThanOrEqual(MOST_BYTES);
  expect(built.outputFiles[0]!.text).not.toMatch(/\b(require|import)\(/);
});
