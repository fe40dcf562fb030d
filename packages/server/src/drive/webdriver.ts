import { mixed, object, string } from 'yup';
import { BrowserError, CHOOSE, type Browser, type ElementReference, type InputSource } from './browser';

const ELEMENT = 'element-6066-11e4-a52e-4f735466cecf';
/** So long may what is called in the page take. */
const SCRIPT_LIMIT_MS = 600_000;
const VIEWPORT = { width: 1280, height: 800 };

/** What an end point answers (WebDriver, section 6.3), and the value of an error (section 6.6). */
const answerSchema = object({ value: mixed().nullable() }).required();
const sessionSchema = object({
  sessionId: string().required(),
  capabilities: object({ browserName: string(), browserVersion: string() }).required(),
}).required();
const errorSchema = object({ error: string().required(), message: string().default('') });

/** Thrown when the driver refuses a command; `code` is the standard's (WebDriver, section 6.6). */
export class WebDriverError extends Error {
  override readonly name = 'WebDriverError';

  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** Errors of a browser or driver that broke, and did not refuse what it was asked (WebDriver, section 6.6). */
const BREAKDOWNS: ReadonlySet<string> = new Set([
  'invalid session id',
  'no such window',
  'session not created',
  'unknown error',
]);

/** Whether a browser broke, or cannot be reached any more, so that the same may well be done by another one. */
export function isBreakdown(error: unknown): boolean {
  if (error instanceof BrowserError) return true;
  if (error instanceof WebDriverError) return BREAKDOWNS.has(error.code);
  // What fetch throws where nobody answers.
  return error instanceof TypeError && error.message === 'fetch failed';
}

/** A browser behind any end point of the W3C WebDriver protocol: a driver on this machine, a farm, a phone. */
export class WebDriverBrowser implements Browser {
  private constructor(
    private readonly session: string,
    readonly name: string,
  ) {}

  /**
   * @param endPoint address of the driver
   * @param capabilities asked for (WebDriver, section 7)
   * @throws BrowserError
   */
  static async open(endPoint: string, capabilities: object): Promise<WebDriverBrowser> {
    const base = endPoint.replace(/\/$/, '');
    try {
      const value = sessionSchema.validateSync(
        await send('POST', `${base}/session`, { capabilities: { alwaysMatch: capabilities } }),
      );
      const { browserName = 'browser', browserVersion = '' } = value.capabilities;
      const browser = new WebDriverBrowser(
        `${base}/session/${value.sessionId}`,
        `${browserName} ${browserVersion}`,
      );
      await browser.#resize();
      await browser.#send('POST', '/timeouts', { script: SCRIPT_LIMIT_MS });
      return browser;
    } catch (error) {
      throw new BrowserError(`no browser could be had from ${base}: ${reasonOf(error)}`);
    }
  }

  async navigate(url: string): Promise<void> {
    await this.#send('POST', '/url', { url });
  }

  async find(selector: string): Promise<ElementReference | undefined> {
    const found = await this.#send('POST', '/elements', { using: 'css selector', value: selector });
    return (found as ElementReference[])[0];
  }

  originOf(element: ElementReference): unknown {
    return { [ELEMENT]: element[ELEMENT] };
  }

  async perform(sources: readonly InputSource[]): Promise<void> {
    await this.#send('POST', '/actions', { actions: sources });
  }

  async scrollIntoView(element: ElementReference): Promise<void> {
    const script = 'arguments[0].scrollIntoView({ block: "center", inline: "center" })';
    await this.#send('POST', '/execute/sync', { script, args: [element] });
  }

  async choose(element: ElementReference, index: number): Promise<void> {
    const script = `(${CHOOSE})(...arguments)`;
    await this.#send('POST', '/execute/sync', { script, args: [element, index] });
  }

  call(source: string): Promise<unknown> {
    return this.#send('POST', '/execute/sync', { script: `return (${source})();`, args: [] });
  }

  /** Asks the browser's own throttle, where the driver has a command for it. @throws WebDriverError where not */
  async throttle(factor: number): Promise<void> {
    await this.#send('POST', '/goog/cdp/execute', {
      cmd: 'Emulation.setCPUThrottlingRate',
      params: { rate: factor },
    });
  }

  async close(): Promise<void> {
    await this.#send('DELETE', '').catch(() => undefined);
  }

  /** A phone has the size it has, and says so. */
  async #resize(): Promise<void> {
    await this.#send('POST', '/window/rect', VIEWPORT).catch(() => undefined);
  }

  #send(method: string, path: string, body?: object): Promise<unknown> {
    return send(method, this.session + path, body);
  }
}

async function send(method: string, url: string, body?: object): Promise<unknown> {
  const answer = await fetch(url, {
    method,
    headers: { 'content-type': 'application/json; charset=utf-8' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await answer.text();
  const value = valueIn(text);
  if (answer.ok && value !== NO_ANSWER) return value;
  if (!answer.ok && errorSchema.isValidSync(value, { strict: true })) {
    const { error, message = '' } = value;
    throw new WebDriverError(error, message.split('\n')[0]!);
  }
  throw new WebDriverError(
    'unknown error',
    `${method} ${new URL(url).pathname} was answered ${answer.status} with what is no answer of WebDriver: ${text.slice(0, 80)}`,
  );
}

const NO_ANSWER = Symbol('no answer of the protocol');

function valueIn(text: string): unknown {
  try {
    return answerSchema.validateSync(JSON.parse(text)).value;
  } catch {
    return NO_ANSWER;
  }
}

function reasonOf(error: unknown): string {
  const cause = (error as Error).cause as { code?: string } | undefined;
  return cause?.code ?? (error as Error).message;
}
