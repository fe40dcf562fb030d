/** `npm test`: everything from nothing, in Chromium. Ends with the number of tests that passed and failed. */
import { rmSync } from 'node:fs';
import { checkNode, install } from './lib/prepare.mjs';
import { ensureChromium } from './lib/browsers-here.mjs';
import { Steps, ofVitest, results } from './lib/steps.mjs';

checkNode();
install();
rmSync(results, { recursive: true, force: true });
ensureChromium();
const steps = new Steps();
const node = process.execPath;
// Each of these keeps one core busy.
await steps.beside(
  [['lint', ['npx', 'eslint', '.', '--max-warnings', '0']]],
  [
    ['format', ['npx', 'prettier', '--check', '.', '--log-level', 'warn']],
    ['circles', [node, 'scripts/circles.mjs']],
    [
      'components',
      [node, 'scripts/components.mjs', 'test-results/components.json'],
      { counts: { file: 'components.json', read: ofVitest } },
    ],
    ['build', [node, 'scripts/prepare.mjs']],
  ],
);
await steps.step('types', [node, 'scripts/types.mjs']);
await steps.step(
  'units',
  [
    ...['npx', 'vitest', 'run', '--reporter=default', '--reporter=json'],
    '--outputFile.json=test-results/units.json',
  ],
  { counts: { file: 'units.json', read: ofVitest } },
);
// Those that measure time have the machine to themselves.
await steps.browser('untimed', 3);
await steps.browser('timed', 1);
steps.end('summary.txt');
