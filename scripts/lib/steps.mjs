/** Steps of a test run, what of them failed, and how many tests passed. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { root } from './prepare.mjs';

export const results = join(root, 'test-results');

/** The first lines of an error, without the colours of a terminal. */
const inShort = (message = 'no error was written') =>
  stripVTControlCharacters(message).split('\n').filter(Boolean).slice(0, 6).join('\n    ');

/** Passed and failed tests in what a unit runner wrote, and of each failed one its name and error. */
export const ofVitest = ({ numPassedTests, numFailedTests, testResults }) => ({
  passed: numPassedTests,
  failed: numFailedTests,
  failures: testResults.flatMap(({ name: file, message, assertionResults }) => [
    ...(message ? [`${relative(root, file)}\n    ${inShort(message)}`] : []),
    ...assertionResults
      .filter(({ status }) => status === 'failed')
      .map(
        ({ fullName, failureMessages: [first] }) =>
          `${relative(root, file)}: ${fullName}\n    ${inShort(first)}`,
      ),
  ]),
});

/** Tests of a suite of browser tests, and of those within it. */
const testsOf = ({ suites = [], specs = [] }) => [...specs, ...suites.flatMap(testsOf)];

/** The same of the browser tests. One that passed at its second try has passed, and is named by the runner. */
export const ofPlaywright = ({ stats, suites, errors }) => ({
  passed: stats.expected + stats.flaky,
  failed: stats.unexpected,
  failures: [
    ...errors.map(({ message }) => inShort(message)),
    ...suites
      .flatMap(testsOf)
      .filter(({ ok }) => !ok)
      .map(({ file, title, tests }) => {
        const failed = tests.flatMap((test) => test.results).find(({ errors: told }) => told.length > 0);
        return `${file}: ${title}\n    ${inShort(failed?.errors[0].message)}`;
      }),
  ],
});

/** Runs a command. @returns whether it was good, and what it wrote, where that is not shown at once */
function runs([command, ...args], { env = {}, isShown }) {
  const child = spawn(command, args, {
    cwd: root,
    stdio: ['ignore', isShown ? 'inherit' : 'pipe', isShown ? 'inherit' : 'pipe'],
    env: { ...process.env, NG_CLI_ANALYTICS: 'false', ...env },
  });
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (piece) => (text += piece));
  return new Promise((resolve) => {
    child.on('error', ({ message }) => resolve({ isGood: false, text: `${text}${message}\n` }));
    child.on('close', (status) => resolve({ isGood: status === 0, text }));
  });
}

/** Runs steps, all of them whatever fails, and counts what they tell. */
export class Steps {
  #failed = [];
  #passed = 0;
  #failedTests = 0;
  #failures = [];

  /**
   * Runs a step: a command with its arguments.
   * @param counts for one that runs tests: the file with their results, and what reads it; a runner that left none counts as
   * one failure
   */
  async step(name, command, { env, counts, isShown = true } = {}) {
    if (isShown) console.log(`\n── ${name}`);
    const startedAt = Date.now();
    const { isGood, text } = await runs(command, { env, isShown });
    if (!isShown) console.log(`\n── ${name}\n${text.trim()}`);
    const seconds = Math.round((Date.now() - startedAt) / 1000);
    console.log(`── ${name}: ${isGood ? 'good' : 'FAILED'} (${seconds} s)`);
    if (!isGood) this.#failed.push(name);
    if (counts !== undefined) this.#count(counts);
  }

  /** Runs rows of steps beside each other, each row in its order; what each wrote is shown when it is done. */
  async beside(...rows) {
    await Promise.all(
      rows.map(async (row) => {
        for (const [name, command, how] of row) await this.step(name, command, { ...how, isShown: false });
      }),
    );
  }

  /** Browser tests of a project, so many at a time. */
  browser(project, workers) {
    const file = `playwright-${project}.json`;
    return this.step(
      `browser, ${project}`,
      ['npx', 'playwright', 'test', `--project=${project}`, `--workers=${workers}`],
      { env: { BROWSER_RESULTS: `test-results/${file}` }, counts: { file, read: ofPlaywright } },
    );
  }

  /**
   * Says what failed and, as the last line, how many tests passed and failed; writes both to files, too, what failed to
   * `failed-` and the name of the other.
   */
  end(file) {
    const failed = this.#failedTests || this.#failed.length;
    const said =
      this.#failed.length === 0
        ? ''
        : [`Not all is good: ${this.#failed.join(', ')}.`, ...this.#failures].join('\n  ');
    if (said !== '') console.log(`\n${said}`);
    const summary = `${this.#passed} passed, ${failed} failed`;
    mkdirSync(results, { recursive: true });
    writeFileSync(join(results, file), `${summary}\n`);
    writeFileSync(join(results, `failed-${file}`), said === '' ? '' : `${said}\n`);
    console.log(`\n${summary}`);
    process.exitCode = failed === 0 ? 0 : 1;
  }

  #count({ file, read }) {
    const path = join(results, file);
    const { passed, failed, failures } = existsSync(path)
      ? read(JSON.parse(readFileSync(path, 'utf8')))
      : { passed: 0, failed: 1, failures: [`${file} was not written`] };
    this.#passed += passed;
    this.#failedTests += failed;
    this.#failures.push(...failures);
  }
}
