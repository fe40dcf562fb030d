import { randomUUID } from 'node:crypto';
import { RecordingClient } from '../client/recording-client';
import { serve } from '../serve';
import { withoutWords, type Header, type ProxySettings, type Step } from '@nettle-patch/core';
import type { Browser } from './browser';
import { openLocalBrowser, type BrowserName } from './local-browsers';
import { atOrigin } from '../sources/at-origin';
import { runSteps } from './run-steps';
import { slowed } from './slowing';
import { WebDriverBrowser } from './webdriver';

export interface ScriptedRecording {
  /** Address of the page, where the app itself serves it. */
  readonly url: URL;
  readonly steps: readonly Step[];
  readonly settings: Partial<ProxySettings>;
  /** A browser of this machine, or the address of a WebDriver end point. */
  readonly browser: BrowserName | URL;
  /** How often the steps are taken, within one recording. */
  readonly repeat: number;
  /** Whether the page is loaded afresh for each round; else all are taken in one load. */
  readonly freshLoads?: boolean | undefined;
  readonly title?: string;
  /** Record from the first script of the page on, by a second load of it. */
  readonly startUp?: boolean;
  /** Whether the words that are typed are told with the steps; else only how long they are. */
  readonly keepsWords?: boolean;
  /** How many times slower the browser is to run; as it is where absent. */
  readonly slow?: number | undefined;
  /** Called before the steps are taken each time, with how often they have been. */
  readonly onRound?: (done: number) => void;
  /** Ends it early; nothing is recorded then. */
  readonly signal?: AbortSignal;
}

/** What came of it: the lines of the recording, and what went wrong while the steps were taken. */
export interface RecordedScript {
  readonly lines: string[];
  readonly browser: string;
  /** Times slower than usual that the browser was found to be; undefined where it was not slowed. */
  readonly speed?: number | undefined;
  readonly failure?: Error;
}

/** What comes late, such as the delay of the last input, is waited for. */
const SETTLE_MS = 700;
/** Thrown when it was ended before it was done. */
export class EndedEarlyError extends Error {
  override readonly name = 'EndedEarlyError';
}

/** What the page is told reaches it within this. */
const ARM_MS = 300;

/**
 * The header of a recording that was made by steps, which it then tells.
 * @param speed times slower than usual that the browser was found to be
 */
function headerOf(
  line: string,
  { title, steps, repeat, keepsWords, slow }: ScriptedRecording,
  speed: number | undefined,
): Header {
  const header = JSON.parse(line) as Header;
  const told = keepsWords ? [...steps] : withoutWords(steps);
  return {
    ...header,
    title: title ?? header.title,
    replay: { steps: told, times: repeat },
    ...(speed === undefined ? {} : { speed, slowed: slow }),
  };
}

/**
 * Records a page while steps are taken in it by a browser.
 * @throws BrowserError when there is no browser to be had; EndedEarlyError; Error when the page does not join
 */
export async function recordScript(wanted: ScriptedRecording): Promise<RecordedScript> {
  const running = await serve({
    target: wanted.url.origin,
    port: 0,
    proxyPort: 0,
    settings: { steps: 'off', ...wanted.settings, isModeChosen: true },
  });
  let browser: Browser | undefined;
  let client: RecordingClient | undefined;
  const record = async (): Promise<RecordedScript> => {
    client = await RecordingClient.connect(running);
    const opened = await (wanted.browser instanceof URL
      ? WebDriverBrowser.open(wanted.browser.href, {})
      : openLocalBrowser(wanted.browser, { sharedMemory: wanted.settings.isolate === true }));
    browser = opened;
    if (wanted.signal?.aborted) {
      await opened.close();
      throw new EndedEarlyError('ended before it began');
    }
    return recordWith(wanted, opened, client, running.proxyOrigin);
  };
  try {
    return await untilAborted(record(), wanted.signal);
  } finally {
    await browser?.close();
    client?.close();
    running.close();
  }
}

/** What work gives, or its end as soon as it is told to end. What it still does then is nobody's concern. */
function untilAborted<T>(work: Promise<T>, signal: AbortSignal | undefined): Promise<T> {
  if (signal === undefined) return work;
  return new Promise((resolve, reject) => {
    const end = () => reject(new EndedEarlyError('ended before it was done'));
    if (signal.aborted) end();
    signal.addEventListener('abort', end, { once: true });
    work.then(resolve, reject).finally(() => signal.removeEventListener('abort', end));
  });
}

async function recordWith(
  wanted: ScriptedRecording,
  browser: Browser,
  client: RecordingClient,
  proxyOrigin: string,
): Promise<RecordedScript> {
  const openUrl = (address: string) => {
    const isPath = /^[/\\]/.test(address);
    const url = isPath ? atOrigin(wanted.url.origin, address) : new URL(address, wanted.url);
    return url.origin === wanted.url.origin ? proxyOrigin + url.pathname + url.search + url.hash : url.href;
  };
  await browser.navigate(openUrl(wanted.url.href));
  const joined = await client.target();
  const speed = wanted.slow === undefined ? undefined : await slowed(browser, wanted.slow);
  const recordingId = randomUUID();
  if (wanted.startUp) {
    client.startWithNextLoad(joined, recordingId);
    await new Promise((resolve) => setTimeout(resolve, ARM_MS));
    await browser.navigate(openUrl(wanted.url.href));
  } else {
    await client.start(joined, recordingId);
  }
  const target = wanted.startUp ? await client.recorded(recordingId) : joined;
  let failure: Error | undefined;
  try {
    for (let round = 0; round < wanted.repeat; round++) {
      wanted.onRound?.(round);
      if (round > 0 && wanted.freshLoads === true) {
        await new Promise((resolve) => setTimeout(resolve, SETTLE_MS));
        await browser.navigate(openUrl(wanted.url.href));
      }
      await runSteps(browser, wanted.steps, openUrl);
    }
  } catch (error) {
    failure = error as Error;
  }
  await new Promise((resolve) => setTimeout(resolve, SETTLE_MS));
  const lines = await client.stop(target, recordingId);
  lines[0] = JSON.stringify(headerOf(lines[0]!, wanted, speed));
  return { lines, browser: browser.name, speed, ...(failure === undefined ? {} : { failure }) };
}
