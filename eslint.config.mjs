import js from '@eslint/js';
import angular from 'angular-eslint';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';

/** What each package may not import: dependencies point one way, from all to the core, and the core to none. */
const forbidden = (patterns, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }],
});

const CORE_FORBIDDEN = [
  '@angular/*',
  'node:*',
  'fs',
  'path',
  'rxjs',
  'rxjs/*',
  'dexie',
  'express',
  'ws',
  '@nettle-patch/*',
  '**/packages/**',
];
const CORE_MESSAGE = 'the core imports nothing from DOM, Angular, Node or another package';

/** Folders of the core, floor by floor: each may import what is on the floors below its own, and no other. */
const CORE_FLOORS = [
  ['words', 'lists'],
  ['format', 'statistics'],
  ['instrumentation', 'recording', 'protocol'],
  ['sources', 'inputs'],
  ['attribution', 'receiver'],
  ['calls'],
  ['outcomes', 'devices'],
  ['stings'],
  ['explanation'],
  ['detectors'],
  ['suggestions', 'compare'],
  ['timeline', 'overview', 'steps', 'trials'],
  ['report'],
  ['export', 'imports'],
];

/** For each folder of the core: no import from its own floor, but from itself, or from one above. */
const coreFloors = CORE_FLOORS.flatMap((folders, floor) =>
  folders.map((folder) => {
    const above = CORE_FLOORS.slice(floor)
      .flat()
      .filter((other) => other !== folder);
    return {
      files: [`packages/core/src/${folder}/**/*.ts`],
      ignores: ['**/*.spec.ts'],
      rules: {
        'no-restricted-imports': [
          'error',
          {
            patterns: [
              { group: CORE_FORBIDDEN, message: CORE_MESSAGE },
              {
                group: [...above.map((other) => `../${other}/*`), '../testing/*', '../index', '../public'],
                message: `"${folder}" is on floor ${floor + 1} of the core and imports from lower ones only; see docs/architecture.md`,
              },
            ],
          },
        ],
      },
    };
  }),
);

const CODE = ['**/*.ts', '**/*.mjs', '**/*.js'];

export default defineConfig(
  globalIgnores(['**/dist/', '**/.angular/', 'test-results/', '.cache/']),
  { files: CODE, extends: [js.configs.recommended] },
  { files: ['**/*.ts'], extends: [tseslint.configs.strict] },
  {
    files: ['**/*.ts'],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { prefer: 'type-imports' }],
      '@typescript-eslint/no-empty-function': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'max-lines': ['error', { max: 320, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // Rules that need to know types.
    files: ['packages/*/src/**/*.ts'],
    ignores: ['**/__mocks__/**'],
    languageOptions: {
      parserOptions: {
        project: [
          'packages/*/tsconfig.json',
          'packages/app/tsconfig.worker.json',
          'packages/app/tsconfig.spec.json',
          'tsconfig.tests.json',
        ],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true, requireDefaultForNonUnion: true },
      ],
    },
  },
  {
    files: ['**/*.mjs', '**/*.js'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        Buffer: 'readonly',
        MessageChannel: 'readonly',
        requestAnimationFrame: 'readonly',
        addEventListener: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        performance: 'readonly',
        fetch: 'readonly',
        document: 'readonly',
        MutationObserver: 'readonly',
        WebSocket: 'readonly',
        btoa: 'readonly',
      },
    },
  },
  {
    files: ['bench/apps/*.js', 'bench/apps.mjs', 'bench/pages/*.js', 'bench/projects/**/*.js'],
    languageOptions: {
      globals: Object.fromEntries(
        [
          'URLSearchParams',
          'location',
          'customElements',
          'setInterval',
          'clearInterval',
          'MediaRecorder',
          'Blob',
          'Worker',
          'navigator',
          'self',
          'caches',
          'module',
        ].map((name) => [name, 'readonly']),
      ),
    },
  },
  {
    // Scripts of one page, which know each other's functions and do what an app might.
    files: ['e2e/noticed/checks/*.js'],
    languageOptions: { sourceType: 'script' },
    rules: {
      'no-undef': 'off',
      'no-unused-vars': 'off',
      'no-empty-function': 'off',
      'no-new-func': 'off',
      'no-eval': 'off',
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.spec.ts', '**/testing/**'],
    rules: {
      ...forbidden(CORE_FORBIDDEN, CORE_MESSAGE),
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'navigator',
        'process',
        'Buffer',
        'self',
        'location',
        'performance',
      ],
    },
  },
  ...coreFloors,
  {
    files: ['packages/recorder/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      ...forbidden(
        ['@angular/*', 'node:*', 'rxjs', 'dexie', 'express', 'yup'],
        'the recorder is one small file for any page',
      ),
      // A function put in place of another passes its arguments on as they came.
      'prefer-rest-params': 'off',
    },
  },
  {
    files: ['packages/trial/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: forbidden(
      ['@angular/*', 'node:*', 'rxjs', 'dexie', 'express', 'yup'],
      'what a trial runs in imports types of the core, and nothing else',
    ),
  },
  {
    files: ['packages/instrument/src/**/*.ts'],
    ignores: ['**/*.spec.ts', '**/testing/**'],
    rules: forbidden(
      ['@angular/*', 'node:*', 'rxjs', 'dexie', 'express'],
      'it rewrites text and knows no more',
    ),
  },
  {
    files: ['packages/server/src/**/*.ts'],
    rules: forbidden(
      ['@angular/*', '@nettle-patch/app', '@nettle-patch/recorder'],
      'the server imports the core and the rewriter, and neither the interface nor the recorder',
    ),
  },
  {
    files: ['packages/app/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      ...forbidden(
        ['node:*', 'express', 'ws', '@nettle-patch/server', '@nettle-patch/recorder'],
        'the interface imports the core, and neither Node nor the server nor the recorder',
      ),
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'np', style: 'kebab-case' }],
    },
  },
  {
    files: ['packages/app/src/app/shared/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: forbidden(
      [
        'node:*',
        'express',
        'ws',
        '@nettle-patch/server',
        '**/services/**',
        '**/*.component',
        '!./*.component',
        '../lens/**',
        '../shell/**',
      ],
      'what is shared knows neither services nor views',
    ),
  },
  {
    files: ['packages/app/src/app/services/**/*.ts'],
    rules: forbidden(
      ['node:*', 'express', 'ws', '@nettle-patch/server', '../*/*.component', '../shell/**'],
      'services know no views',
    ),
  },
  {
    files: ['packages/app/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
  },
);
