import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: {
    alias: {
      '@nettle-patch/core': fileURLToPath(new URL('packages/core/src/index.ts', import.meta.url)),
      '@nettle-patch/instrument': fileURLToPath(new URL('packages/instrument/src/index.ts', import.meta.url)),
    },
  },
  // Property tests take long on a machine that does other work.
  test: {
    include: ['packages/*/src/**/*.spec.ts'],
    // Components are tested by `npm run components`: they have to be compiled first.
    exclude: ['**/*.component.spec.ts'],
    environment: 'node',
    testTimeout: 30_000,
    globalSetup: 'scripts/lib/built-for-units.mjs',
  },
});
