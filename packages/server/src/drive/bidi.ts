import { once } from 'node:events';
import { WebSocket } from 'ws';
import { BrowserError, CHOOSE, type Browser, type ElementReference, type InputSource } from './browser';

interface Answer {
  readonly id?: number;
  readonly type?: 'success' | 'error' | 'event';
  readonly result?: unknown;
  readonly message?: string;
}

interface Waiting {
  resolve(value: unknown): void;
  reject(error: Error): void;
}

const VIEWPORT = { width: 1280, height: 800 };

/** A browser that speaks W3C WebDriver BiDi itself, with no driver between. */
export class BidiBrowser implements Browser {
  readonly #waiting = new Map<number, Waiting>();
  #nextId = 1;
  #context = '';
  name = 'browser';

  private constructor(private readonly socket: WebSocket) {
    socket.on('message', (data) => this.#take(JSON.parse(String(data)) as Answer));
    socket.on('close', () => this.#fail(new BrowserError('the browser closed the connection')));
  }

  /**
   * @param url of the browser's web socket
   * @throws BrowserError
   */
  static async open(url: string): Promise<BidiBrowser> {
    const socket = new WebSocket(`${url}/session`);
    try {
      await once(socket, 'open');
    } catch (error) {
      throw new BrowserError(`the browser did not answer at ${url}: ${(error as Error).message}`);
    }
    const browser = new BidiBrowser(socket);
    await browser.#begin();
    return browser;
  }

  async navigate(url: string): Promise<void> {
    await this.#send('browsingContext.navigate', { context: this.#context, url, wait: 'complete' });
  }

  async find(selector: string): Promise<ElementReference | undefined> {
    const { nodes } = (await this.#send('browsingContext.locateNodes', {
      context: this.#context,
      locator: { type: 'css', value: selector },
      maxNodeCount: 1,
    })) as { nodes: ElementReference[] };
    return nodes[0];
  }

  originOf({ sharedId }: ElementReference): unknown {
    return { type: 'element', element: { sharedId } };
  }

  async perform(sources: readonly InputSource[]): Promise<void> {
    await this.#send('input.performActions', { context: this.#context, actions: sources });
  }

  async scrollIntoView({ sharedId }: ElementReference): Promise<void> {
    await this.#send('script.callFunction', {
      functionDeclaration: '(element) => element.scrollIntoView({ block: "center", inline: "center" })',
      arguments: [{ sharedId }],
      target: { context: this.#context },
      awaitPromise: false,
    });
  }

  async choose({ sharedId }: ElementReference, index: number): Promise<void> {
    await this.#send('script.callFunction', {
      functionDeclaration: CHOOSE,
      arguments: [{ sharedId }, { type: 'number', value: index }],
      target: { context: this.#context },
      awaitPromise: false,
    });
  }

  async call(source: string): Promise<unknown> {
    const { result } = (await this.#send('script.callFunction', {
      functionDeclaration: `async () => JSON.stringify(await (${source})())`,
      target: { context: this.#context },
      awaitPromise: true,
    })) as { result?: { value?: string } };
    return JSON.parse(result?.value ?? 'null') as unknown;
  }

  async close(): Promise<void> {
    await this.#send('browser.close', {}).catch(() => undefined);
    this.socket.close();
  }

  async #begin(): Promise<void> {
    const { capabilities } = (await this.#send('session.new', { capabilities: {} })) as {
      capabilities: { browserName: string; browserVersion: string };
    };
    this.name = `${capabilities.browserName} ${capabilities.browserVersion}`;
    const { contexts } = (await this.#send('browsingContext.getTree', {})) as {
      contexts: { context: string }[];
    };
    this.#context = contexts[0]!.context;
    await this.#send('browsingContext.setViewport', { context: this.#context, viewport: VIEWPORT });
  }

  #send(method: string, params: object): Promise<unknown> {
    const id = this.#nextId++;
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.socket.send(JSON.stringify({ id, method, params }));
    });
  }

  #take({ id, type, result, message }: Answer): void {
    if (id === undefined) return;
    const waiting = this.#waiting.get(id);
    this.#waiting.delete(id);
    if (type === 'error') waiting?.reject(new Error(message));
    else waiting?.resolve(result);
  }

  #fail(error: Error): void {
    for (const { reject } of this.#waiting.values()) reject(error);
    this.#waiting.clear();
  }
}
