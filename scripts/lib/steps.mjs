/** Steps of a test run, what of them failed, and how many tests passed. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, run } from './prepare.mjs';

export const results = join(root, 'test-results');

/** Passed and failed tests in what a unit runner wrote. */
export const ofVitest = ({ numPassedTests, numFailedTests }) => ({
  passed: numPassedTests,
  failed: numFailedTests,
});

/** The same of the browser tests. One that passed at its second try has passed, and is named by the runner. */
export const ofPlaywright = ({ stats }) => ({
  passed: stats.expected + stats.flaky,
  failed: stats.unexpected,
});

/** Runs steps one after the other, all of them whatever fails, and counts what they tell. */
export class Steps {
  #failed = [];
  #passed = 0;
  #failedTests = 0;

  /** @param work returns 0 where it is good */
  step(name, work) {
    console.log(`\n── ${name}`);
    const startedAt = Date.now();
    const isGood = work() === 0;
    const seconds = Math.round((Date.now() - startedAt) / 1000);
    console.log(`── ${name}: ${isGood ? 'good' : 'FAILED'} (${seconds} s)`);
    if (!isGood) this.#failed.push(name);
  }

  /**
   * A step that runs tests and writes their results to a file.
   * @param counts reads them; a runner that left none counts as one failure
   */
  tests(name, file, counts, work) {
    this.step(name, work);
    const path = join(results, file);
    const { passed, failed } = existsSync(path)
      ? counts(JSON.parse(readFileSync(path, 'utf8')))
      : { passed: 0, failed: 1 };
    this.#passed += passed;
    this.#failedTests += failed;
  }

  /** Browser tests of a project, so many at a time. */
  browser(project, workers) {
    const file = `playwright-${project}.json`;
    this.tests(`browser, ${project}`, file, ofPlaywright, () =>
      run('npx', ['playwright', 'test', `--project=${project}`, `--workers=${workers}`], {
        env: { BROWSER_RESULTS: `test-results/${file}` },
      }),
    );
  }

  /** Says what failed and, as the last line, how many tests passed and failed; writes that to a file, too. */
  end(file) {
    const failed = this.#failedTests || this.#failed.length;
    if (this.#failed.length > 0) console.log(`\nNot all is good: ${this.#failed.join(', ')}. See above.`);
    const summary = `${this.#passed} passed, ${failed} failed`;
    mkdirSync(results, { recursive: true });
    writeFileSync(join(results, file), `${summary}\n`);
    console.log(`\n${summary}`);
    process.exitCode = failed === 0 ? 0 : 1;
  }
}
