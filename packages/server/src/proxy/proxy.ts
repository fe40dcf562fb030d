import { Agent, type IncomingMessage, type ServerResponse } from 'node:http';
import { Agent as TlsAgent } from 'node:https';
import { pipeline, type Duplex } from 'node:stream';
import type { Socket } from 'node:net';
import { createProxyServer } from 'httpxy';
import { asksForWorker } from '../rewriting/script-answer';
import { AppAnswers, ignore, type ProxyOptions } from './app-answers';
import { decompressor } from './decompress';
import { destinationOf, isHtml } from './html-answer';
import { PageAnswers } from './page-answers';
import { ScriptAnswers } from './script-answers';
import { asFromBrowser, asReadable, type HeaderTarget } from './upstream-headers';

/** An answer may come as late as it likes: event streams and long polls are no failures. */
const NO_TIME_LIMIT = 2 ** 31 - 1;

/**
 * Each request to the app has a connection of its own: one that is kept for the next may be closed by the app in the
 * moment in which that is sent, which would then be lost.
 */
const CONNECTIONS = new Agent({ keepAlive: false });
const TLS_CONNECTIONS = new TlsAgent({ keepAlive: false });

/** Passes requests and web sockets on to the app, and puts the recorder into its HTML. */
export class RecordingProxy {
  readonly #app: AppAnswers;
  readonly #pages: PageAnswers;
  readonly #scripts: ScriptAnswers;
  readonly #proxy;

  constructor(private readonly options: ProxyOptions) {
    const app = (this.#app = new AppAnswers(options));
    this.#pages = new PageAnswers(app);
    this.#scripts = new ScriptAnswers(app);
    this.#proxy = createProxyServer({
      target: reachable(options.targetOrigin),
      changeOrigin: true,
      selfHandleResponse: true,
      secure: false,
      agent: options.targetOrigin.startsWith('https:') ? TLS_CONNECTIONS : CONNECTIONS,
      proxyTimeout: NO_TIME_LIMIT,
    });
    this.#proxy.on('proxyReq', (upstream, request, response) => {
      upstream.once('upgrade', (_answer, socket) => {
        socket.destroy();
        app.failed(new Error('it switched to another protocol, which nobody had asked for'), response);
      });
      this.#guarded(response, () => this.#prepare(upstream, request));
    });
    this.#proxy.on('proxyReqWs', (upstream, _request, socket) =>
      this.#guarded(socket, () => asFromBrowser(upstream, app.origins)),
    );
    this.#proxy.on('proxyRes', (answer, request, response) =>
      this.#guarded(response, () => this.#answer(answer, request, response)),
    );
    this.#proxy.on('error', (error, _request, response) => this.#app.failed(error, response));
  }

  handle(request: IncomingMessage, response: ServerResponse): void {
    this.#proxy.web(request, response).catch((error: Error) => this.#app.failed(error, response));
  }

  upgrade(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    this.#proxy
      .ws(request, socket as Socket, { target: reachable(this.options.targetOrigin) }, head)
      .catch(() => socket.destroy());
  }

  /** Whatever an app or a browser sends, it costs no more than its own answer. */
  #guarded(response: unknown, work: () => void): void {
    try {
      work();
    } catch (error) {
      this.#app.failed(error as Error, response);
    }
  }

  #prepare(upstream: HeaderTarget, request: IncomingMessage): void {
    const app = this.#app;
    asFromBrowser(upstream, app.origins);
    app.note(request);
    const isScript = app.asksForScript(request);
    if (isScript) app.control.asked(app.urlOf(request));
    asReadable(
      upstream,
      request,
      asksForWorker(request) || (app.rewritingFor(request) !== undefined && isScript),
    );
  }

  #answer(answer: IncomingMessage, request: IncomingMessage, response: ServerResponse): void {
    const destination = destinationOf(request);
    const readable = decompressor(answer.headers['content-encoding']);
    const isPage = destination !== 'other' && isHtml(answer, request.method) && readable !== undefined;
    if (isPage) this.#pages.pass(answer, request, response, readable);
    else if (readable !== undefined && this.#scripts.isToBeRewritten(answer, request)) {
      void this.#scripts.pass(answer, request, response, readable);
    } else {
      this.#app.head(answer, response, this.#app.context(request));
      pipeline(answer, response, ignore);
    }
  }

  workerScript(request: IncomingMessage, name: string, text: string, isModule: boolean): Promise<string> {
    return this.#scripts.workerScript(request, name, text, isModule);
  }
}

/** An origin in its parts, as connections are opened to it: an address of version 6 without its brackets. */
function reachable(origin: string): { protocol: string; host: string; hostname: string; port: string } {
  const { protocol, host, hostname, port } = new URL(origin);
  const usual = protocol === 'https:' ? '443' : '80';
  return { protocol, host, hostname: hostname.replace(/^\[|\]$/g, ''), port: port || usual };
}
