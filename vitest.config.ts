import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

// Figures are written as the language of whoever runs it has them; tests read English ones.
process.env['LC_ALL'] = 'en_US.UTF-8';

/** Tests that replace modules or what the platform has: each file gets a world of its own. */
const APART = [
  'packages/{recorder,server}/src/**/*.spec.ts',
  'packages/core/src/detectors/detectors.spec.ts',
];
/** Components are tested by `npm run components`: they have to be compiled first. */
const COMPONENTS = '**/*.component.spec.ts';

export default defineConfig({
  resolve: {
    alias: {
      '@nettle-patch/core': fileURLToPath(new URL('packages/core/src/index.ts', import.meta.url)),
      '@nettle-patch/instrument': fileURLToPath(new URL('packages/instrument/src/index.ts', import.meta.url)),
    },
  },
  test: {
    environment: 'node',
    // Property tests take long on a machine that does other work.
    testTimeout: 30_000,
    globalSetup: 'scripts/lib/built-for-units.mjs',
    projects: [
      {
        extends: true,
        test: {
          name: 'together',
          include: ['packages/*/src/**/*.spec.ts'],
          exclude: [...APART, COMPONENTS],
          isolate: false,
        },
      },
      { extends: true, test: { name: 'apart', include: APART } },
    ],
  },
});
