import { performance } from 'node:perf_hooks';
import { runTrial, type Trial, type TrialOptions, type TrialRun } from '@nettle-patch/core';
import { openLocalBrowser, type BrowserName } from '../drive/local-browsers';
import { slowed } from '../drive/slowing';
import { BrowserBench } from './browser-bench';
import type { TrialOrigins } from './trial-origins';

/** A trial in a browser of this machine. */
export interface TrialInBrowser extends Pick<TrialOptions, 'maxMs' | 'onStart'> {
  readonly trial: Trial;
  /** Origin of the server of the app; undefined where the trial needs none. */
  readonly targetOrigin: string | undefined;
  readonly browser: BrowserName;
  /** How many times slower the browser is to run; as it is where absent. */
  readonly slow?: number | undefined;
}

/** @throws BrowserError, BadTrialError, TrialBenchError */
export async function runInBrowser(
  origins: TrialOrigins,
  { trial, targetOrigin, browser, slow, ...options }: TrialInBrowser,
): Promise<TrialRun> {
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
    return { where: browser, result, ...(speed === undefined ? {} : { speed }) };
  } finally {
    await bench.close();
  }
}
