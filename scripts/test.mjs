/** `npm test`: everything from nothing. Ends with the number of tests that passed and failed. */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { checkNode, install, build, fail, root, run } from './lib/prepare.mjs';

const CHROMIUM = '/usr/bin/chromium';
const CHROMEDRIVER = '/usr/bin/chromedriver';
const results = join(root, 'test-results');

/** Debian's Chromium and its driver, installed where they are not and apt may be used. */
function ensureChromium() {
  if (existsSync(CHROMIUM) && existsSync(CHROMEDRIVER)) return;
  console.log('Installing Chromium for the browser tests …');
  const quiet = { stdio: ['ignore', 'ignore', 'inherit'] };
  const canInstall = existsSync('/usr/bin/apt-get') && process.getuid?.() === 0;
  if (canInstall) {
    run('apt-get', ['update', '-qq'], quiet);
    run('apt-get', ['install', '-y', '-qq', 'chromium', 'chromium-driver'], quiet);
  }
  if (!existsSync(CHROMIUM)) {
    fail(
      'The browser tests need Chromium. Install it with "sudo apt-get install chromium chromium-driver" and run "npm test" again.',
    );
  }
}

/** Says which tests will be skipped because their browser is not there. */
function tellMissingBrowsers() {
  const others = {
    firefox: ['/usr/bin/firefox-esr', 'firefox-esr'],
    webkit: ['/usr/bin/WebKitWebDriver', 'webkit2gtk-driver xvfb'],
  };
  for (const [name, [path, packages]] of Object.entries(others)) {
    if (existsSync(path)) continue;
    console.log(
      `The tests in ${name} are skipped: it is not installed. On Debian: apt-get install ${packages}`,
    );
  }
}

/** Browser tests: those that measure time have the machine to themselves. */
const PROJECTS = [
  { name: 'untimed', workers: 2 },
  { name: 'timed', workers: 1 },
];

const failedSteps = [];

function step(name, work) {
  console.log(`\n── ${name}`);
  const startedAt = Date.now();
  const isGood = work() === 0;
  console.log(`── ${name}: ${isGood ? 'good' : 'FAILED'} (${Math.round((Date.now() - startedAt) / 1000)} s)`);
  if (!isGood) failedSteps.push(name);
}

function readJson(name) {
  const path = join(results, name);
  return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : undefined;
}

/**
 * Passed and failed tests of both runners. A runner that left no result counts as one failure, and so does every
 * failed step where no test has failed.
 */
function count() {
  const units = readJson('vitest.json');
  const browser = PROJECTS.map(({ name }) => readJson(`playwright-${name}.json`));
  const sum = (figure) => browser.reduce((all, results) => all + figure(results), 0);
  const failedTests = (units?.numFailedTests ?? 1) + sum((one) => one?.stats.unexpected ?? 1);
  return {
    passed: (units?.numPassedTests ?? 0) + sum((one) => (one?.stats.expected ?? 0) + (one?.stats.flaky ?? 0)),
    failed: failedTests || failedSteps.length,
  };
}

checkNode();
install();
rmSync(results, { recursive: true, force: true });
ensureChromium();
tellMissingBrowsers();
const npx = (...args) => run('npx', args);
step('lint', () => npx('eslint', '.', '--max-warnings', '0'));
step('format', () => npx('prettier', '--check', '.', '--log-level', 'warn'));
step('types', () => run(process.execPath, ['scripts/types.mjs']));
step('units', () =>
  npx('vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/vitest.json'),
);
step('build', () => (build(), 0));
for (const { name, workers } of PROJECTS) {
  step(`browser, ${name}`, () =>
    run('npx', ['playwright', 'test', `--project=${name}`, `--workers=${workers}`], {
      env: { BROWSER_RESULTS: `test-results/playwright-${name}.json` },
    }),
  );
}
const { passed, failed } = count();
if (failedSteps.length > 0) console.log(`\nNot all is good: ${failedSteps.join(', ')}. See above.`);
const summary = `${passed} passed, ${failed} failed`;
mkdirSync(results, { recursive: true });
writeFileSync(join(results, 'summary.txt'), `${summary}\n`);
console.log(`\n${summary}`);
process.exitCode = failed === 0 ? 0 : 1;
