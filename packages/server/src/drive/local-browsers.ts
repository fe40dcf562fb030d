import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { BidiBrowser } from './bidi';
import { BrowserError, type Browser } from './browser';
import { WebDriverBrowser } from './webdriver';

export const BROWSER_NAMES = ['chromium', 'firefox', 'webkit'] as const;
export type BrowserName = (typeof BROWSER_NAMES)[number];

const START_LIMIT_MS = 30_000;
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

/** A program that was started, and ends with all it started. */
class Program {
  readonly #process: ChildProcess;
  #output = '';

  constructor(path: string, args: readonly string[], environment: NodeJS.ProcessEnv = {}) {
    this.#process = spawn(path, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      detached: true,
      env: { ...process.env, ...environment },
    });
    for (const stream of [this.#process.stdout!, this.#process.stderr!]) {
      stream.on('data', (piece: Buffer) => (this.#output = (this.#output + piece.toString()).slice(-20_000)));
    }
  }

  /** Waits until the program has printed what matches. @throws BrowserError */
  async printed(pattern: RegExp): Promise<RegExpExecArray> {
    return this.until(`print ${pattern.source}`, () => pattern.exec(this.#output) ?? undefined);
  }

  /** Waits until something holds, as long as the program runs. @throws BrowserError */
  async until<T>(what: string, look: () => T | Promise<T | undefined> | undefined): Promise<T> {
    const untilMs = Date.now() + START_LIMIT_MS;
    while (Date.now() < untilMs) {
      const found = await look();
      if (found !== undefined) return found;
      if (this.#process.exitCode !== null) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    this.end();
    throw new BrowserError(`${this.#process.spawnfile} did not ${what}:\n${this.#output.slice(-2000)}`);
  }

  end(): void {
    if (this.#process.exitCode !== null || this.#process.pid === undefined) return;
    try {
      process.kill(-this.#process.pid, 'SIGTERM');
    } catch {
      this.#process.kill('SIGTERM');
    }
  }
}

/** Closes the program, and deletes its profile, when the browser is closed. */
function endingWith(browser: Browser, programs: readonly Program[], profile?: string): Browser {
  const close = browser.close.bind(browser);
  browser.close = async () => {
    await close();
    for (const program of programs) program.end();
    if (profile !== undefined)
      await rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
  };
  return browser;
}

async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

async function openChromium(): Promise<Browser> {
  const driver = new Program(needed('chromium-driver', 'chromedriver'), ['--port=0']);
  const [, port] = await driver.printed(/started successfully on port (\d+)/);
  const root = process.getuid?.() === 0 ? ['--no-sandbox'] : [];
  const options = { binary: needed('chromium', 'chromium'), args: [...CHROMIUM_FLAGS, ...root] };
  try {
    const capabilities = { 'goog:chromeOptions': options };
    return endingWith(await WebDriverBrowser.open(`http://127.0.0.1:${port}`, capabilities), [driver]);
  } catch (error) {
    driver.end();
    throw error;
  }
}

async function openFirefox(): Promise<Browser> {
  const profile = await mkdtemp(join(tmpdir(), 'nettle-patch-'));
  const path = needed('firefox-esr', 'firefox-esr', 'firefox');
  const args = ['--headless', '--no-remote', '--profile', profile, '--remote-debugging-port', '0'];
  const program = new Program(path, [...args, 'about:blank'], {
    MOZ_HEADLESS_WIDTH: '1280',
    MOZ_HEADLESS_HEIGHT: '800',
  });
  const [, url] = await program.printed(/WebDriver BiDi listening on (ws:\/\/\S+)/);
  return endingWith(await BidiBrowser.open(url!), [program], profile);
}

async function openWebKit(): Promise<Browser> {
  const driverPath = needed('webkit2gtk-driver', 'WebKitWebDriver');
  const programs: Program[] = [];
  let display = process.env['DISPLAY'] ?? '';
  if (display === '') {
    const screen = new Program(needed('xvfb', 'Xvfb'), ['-displayfd', '1', '-screen', '0', '1400x1000x24']);
    programs.push(screen);
    display = `:${(await screen.printed(/^(\d+)$/m))[1]}`;
  }
  const port = await freePort();
  const driver = new Program(driverPath, [`--port=${port}`, '--host=127.0.0.1'], { DISPLAY: display });
  programs.push(driver);
  const endPoint = `http://127.0.0.1:${port}`;
  await driver.until('answer', async () => {
    const answer = await fetch(`${endPoint}/status`).catch(() => undefined);
    return answer?.ok ? true : undefined;
  });
  try {
    const options = { binary: MINI_BROWSER, args: ['--automation'] };
    const browser = await WebDriverBrowser.open(endPoint, { 'webkitgtk:browserOptions': options });
    return endingWith(browser, programs);
  } catch (error) {
    for (const program of programs) program.end();
    throw error;
  }
}

/**
 * Starts a browser of this machine, without a window where it can do without.
 * @throws BrowserError
 */
export function openLocalBrowser(name: BrowserName): Promise<Browser> {
  return { chromium: openChromium, firefox: openFirefox, webkit: openWebKit }[name]();
}
