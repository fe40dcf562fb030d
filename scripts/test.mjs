/** `npm test`: everything from nothing, in Chromium. Ends with the number of tests that passed and failed. */
import { rmSync } from 'node:fs';
import { build, checkNode, install, run } from './lib/prepare.mjs';
import { ensureChromium } from './lib/browsers-here.mjs';
import { Steps, ofVitest, results } from './lib/steps.mjs';

checkNode();
install();
rmSync(results, { recursive: true, force: true });
ensureChromium();
const npx = (...args) => run('npx', args);
const steps = new Steps();
steps.step('lint', () => npx('eslint', '.', '--max-warnings', '0'));
steps.step('format', () => npx('prettier', '--check', '.', '--log-level', 'warn'));
steps.step('circles', () => run(process.execPath, ['scripts/circles.mjs']));
steps.step('types', () => run(process.execPath, ['scripts/types.mjs']));
steps.tests('units', 'units.json', ofVitest, () =>
  npx('vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/units.json'),
);
steps.tests('components', 'components.json', ofVitest, () =>
  run(process.execPath, ['scripts/components.mjs', 'test-results/components.json']),
);
steps.step('build', () => (build(), 0));
// Those that measure time have the machine to themselves.
steps.browser('untimed', 3);
steps.browser('timed', 1);
steps.end('summary.txt');
