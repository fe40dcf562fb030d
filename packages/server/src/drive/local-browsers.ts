import { existsSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { BidiBrowser } from './bidi';
import { BadArgumentError } from './arguments';
import { BrowserError, type Browser } from './browser';
import { freePort, withPort } from './free-port';
import { Profile, Program } from './program';
import { WebDriverBrowser } from './webdriver';

export const BROWSER_NAMES = ['chromium', 'firefox', 'webkit'] as const;
export type BrowserName = (typeof BROWSER_NAMES)[number];
export const BROWSER_WORDS = `browsers of this machine, with commas between: ${BROWSER_NAMES.join(', ')}`;

/** Browsers by their names with commas between. @throws BadArgumentError */
export function browsersFrom(text: string): BrowserName[] {
  const names = text.split(',').map((name) => name.trim());
  return names.map((name) => {
    const known = BROWSER_NAMES.find((one) => one === name);
    if (known === undefined)
      throw new BadArgumentError(
        `--browser: "${name}" is none of ${BROWSER_NAMES.join(', ')}; several stand with commas between.`,
      );
    return known;
  });
}

/** A browser that does not close within this is ended. */
const CLOSE_LIMIT_MS = 3000;
const MINI_BROWSER = '/usr/lib/x86_64-linux-gnu/webkit2gtk-4.1/MiniBrowser';

const CHROMIUM_FLAGS = [
  '--headless=new',
  '--window-size=1280,900',
  '--hide-scrollbars',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Path of the first of some programs that is installed. */
function programPath(...names: readonly string[]): string | undefined {
  const folders = (process.env['PATH'] ?? '').split(delimiter);
  return names
    .flatMap((name) => folders.map((folder) => join(folder, name)))
    .find((path) => existsSync(path));
}

function needed(what: string, ...names: readonly string[]): string {
  const path = programPath(...names);
  if (path === undefined)
    throw new BrowserError(`${names[0]} is not installed. On Debian: apt-get install ${what}`);
  return path;
}

/** What a browser on this machine needs that is not installed; undefined when it is all there. */
export function missingFor(name: BrowserName): string | undefined {
  const has = (...names: string[]) => programPath(...names) !== undefined;
  switch (name) {
    case 'chromium':
      return has('chromedriver') && has('chromium') ? undefined : 'chromium chromium-driver';
    case 'firefox':
      return has('firefox-esr', 'firefox') ? undefined : 'firefox-esr';
    case 'webkit':
      return has('WebKitWebDriver') && existsSync(MINI_BROWSER) && (hasDisplay() || has('Xvfb'))
        ? undefined
        : 'webkit2gtk-driver xvfb';
  }
}

const hasDisplay = () => (process.env['DISPLAY'] ?? '') !== '';

/** Ends the programs, and deletes the profile, when the browser is closed: once, and even where it cannot be closed. */
function endingWith(browser: Browser, programs: readonly Program[], profile?: Profile): Browser {
  const close = browser.close.bind(browser);
  let closed: Promise<void> | undefined;
  const end = async () => {
    // A page that stands still may keep its browser from closing: it is ended then.
    await Promise.race([close().catch(() => undefined), delay(CLOSE_LIMIT_MS, undefined, { ref: false })]);
    for (const program of programs) program.end();
    await profile?.remove();
  };
  browser.close = () => (closed ??= end());
  return browser;
}

/** Says how a browser is slowed. */
function slowedBy(browser: Browser, slow: (factor: number) => void | Promise<void>): Browser {
  browser.slow = async (factor) => slow(factor);
  return browser;
}

/** Opens a browser with programs that end with it, and at once where it does not come up. */
async function openedOrEnded(
  programs: readonly Program[],
  profile: Profile | undefined,
  open: () => Promise<Browser>,
): Promise<Browser> {
  try {
    return endingWith(await open(), programs, profile);
  } catch (error) {
    for (const program of programs) program.end();
    await profile?.remove();
    throw error;
  }
}

/** What a browser is to do that it does not do by itself. */
export interface BrowserWishes {
  /** To let pages that are isolated share their memory. */
  readonly sharedMemory?: boolean;
  /** How large the heap is, to the byte, where the browser can. */
  readonly exactHeap?: boolean;
}

async function openChromium({ exactHeap = false }: BrowserWishes): Promise<Browser> {
  const [driverPath, binary] = [needed('chromium-driver', 'chromedriver'), needed('chromium', 'chromium')];
  const profile = new Profile();
  const driver = new Program(driverPath, ['--port=0']);
  const root = process.getuid?.() === 0 ? ['--no-sandbox'] : [];
  const told = exactHeap ? ['--enable-precise-memory-info'] : [];
  const args = [...CHROMIUM_FLAGS, `--user-data-dir=${profile.folder}`, ...root, ...told];
  return openedOrEnded([driver], profile, async () => {
    const [, port] = await driver.printed(/started successfully on port (\d+)/);
    const options = { 'goog:chromeOptions': { binary, args } };
    const browser = await WebDriverBrowser.open(`http://127.0.0.1:${port}`, options);
    return slowedBy(browser, (factor) => browser.throttle(factor));
  });
}

async function openFirefox(): Promise<Browser> {
  const path = needed('firefox-esr', 'firefox-esr', 'firefox');
  const profile = new Profile();
  const args = ['--headless', '--no-remote', '--profile', profile.folder, '--remote-debugging-port', '0'];
  const program = new Program(path, [...args, 'about:blank'], {
    MOZ_HEADLESS_WIDTH: '1280',
    MOZ_HEADLESS_HEIGHT: '800',
  });
  return openedOrEnded([program], profile, async () => {
    const [, url] = await program.printed(/WebDriver BiDi listening on (ws:\/\/\S+)/);
    return slowedBy(await BidiBrowser.open(url!), (factor) => program.slow(factor));
  });
}

async function openWebKit({ sharedMemory = false }: BrowserWishes): Promise<Browser> {
  const driverPath = needed('webkit2gtk-driver', 'WebKitWebDriver');
  const programs: Program[] = [];
  return openedOrEnded(programs, undefined, async () => {
    let display = process.env['DISPLAY'] ?? '';
    if (display === '') {
      const screen = new Program(needed('xvfb', 'Xvfb'), ['-displayfd', '1', '-screen', '0', '1400x1000x24']);
      programs.push(screen);
      display = `:${(await screen.printed(/^(\d+)$/m))[1]}`;
    }
    const port = await freePort();
    const driver = new Program(driverPath, [`--port=${port}`, '--host=127.0.0.1'], {
      DISPLAY: display,
      // The window for tests does not offer it in pages that are isolated, other than browsers of this engine.
      ...(sharedMemory ? { JSC_useSharedArrayBuffer: '1' } : {}),
    });
    programs.push(driver);
    const endPoint = `http://127.0.0.1:${port}`;
    await driver.until('answer', async () => {
      const answer = await fetch(`${endPoint}/status`).catch(() => undefined);
      return answer?.ok ? true : undefined;
    });
    const options = { binary: MINI_BROWSER, args: ['--automation'] };
    const browser = await WebDriverBrowser.open(endPoint, { 'webkitgtk:browserOptions': options });
    return slowedBy(browser, (factor) => driver.slow(factor));
  });
}

const OPENERS: Readonly<Record<BrowserName, (wishes: BrowserWishes) => Promise<Browser>>> = {
  chromium: openChromium,
  firefox: openFirefox,
  webkit: openWebKit,
};

/**
 * Starts a browser of this machine, without a window where it can do without.
 * @throws BrowserError
 */
export function openLocalBrowser(name: BrowserName, wishes: BrowserWishes = {}): Promise<Browser> {
  return withPort(() => OPENERS[name](wishes));
}
