import { performance } from 'node:perf_hooks';
import { runTrial, type Trial, type TrialOptions, type TrialResult } from '@nettle-patch/core';
import { openLocalBrowser, type BrowserName } from '../drive/local-browsers';
import { slowed } from '../drive/slowing';
import { BrowserBench } from './browser-bench';
import type { TrialOrigins } from './trial-origins';

/** A trial in a browser of this machine. */
export interface TrialInBrowser extends Pick<TrialOptions, 'maxMs' | 'isStopped' | 'onStart'> {
  readonly trial: Trial;
  /** Origin of the server of the app; undefined where the trial needs none. */
  readonly targetOrigin: string | undefined;
  readonly browser: BrowserName;
  /** How many times slower the browser is to run; as it is where absent. */
  readonly slow?: number | undefined;
}

/** What came of it, and how many times slower the browser was found to be. */
export interface TrialInBrowserResult {
  readonly browser: BrowserName;
  readonly result: TrialResult;
  readonly speed: number | undefined;
}

/** @throws BrowserError, BadTrialError, TrialBenchError */
export async function runInBrowser(
  origins: TrialOrigins,
  { trial, targetOrigin, browser, slow, ...options }: TrialInBrowser,
): Promise<TrialInBrowserResult> {
  const page = await origins.open(trial, targetOrigin);
  let speed: number | undefined;
  const bench = new BrowserBench(page, async () => {
    const opened = await openLocalBrowser(browser, { exactHeap: true });
    if (slow !== undefined) {
      await opened.navigate(page.href);
      speed = await slowed(opened, slow);
    }
    return opened;
  });
  try {
    const result = await runTrial(trial, bench, { ...options, now: () => performance.now() });
    return { browser, result, speed };
  } finally {
    await bench.close();
  }
}
