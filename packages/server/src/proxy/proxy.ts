import { createHash, randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Agent, type IncomingMessage, type ServerResponse } from 'node:http';
import { Agent as TlsAgent } from 'node:https';
import type { Duplex } from 'node:stream';
import { PassThrough, pipeline, type Transform } from 'node:stream';
import { IN_WORK_PATH, SENDER_PATH } from '@nettle-patch/core';
import { createProxyServer } from 'httpxy';
import type { Socket } from 'node:net';
import { asksForScript, asksForWorker, isScript } from '../exact/script-answer';
import type { ScriptToRewrite } from '../exact/script-rewriter';
import type { AccessPolicy } from '../gate/access-policy';
import { DEVICE_COOKIE } from '../lan/lan-gate';
import { atOrigin, withoutQuery } from '../sources/at-origin';
import { fetchMap, type Origins } from '../sources/fetch-script';
import { builtPath } from '../assets';
import { answerHeaders, type AnswerContext } from './answer-headers';
import { decompressor, readableCodings } from './decompress';
import { destinationOf, isHtml } from './html-answer';
import { recorderPaths } from './recorder-paths';
import { ServiceWorkers } from './service-workers';
import { injectRecorder, recorderElements, type InjectionOptions } from './html-injection';
import type { InlineRewriter } from './inline-scripts';
import { explainFailure } from './failure-page';
import { encodingPushedOut, tellingBegin } from './page-encoding';
import type { ProxyControl } from './proxy-control';
import { textWithin } from './text-within';

export interface ProxyOptions {
  /** Origin of the app's own server. */
  readonly targetOrigin: string;
  /** Whom it is open to, and at which origin. */
  readonly gate: Pick<AccessPolicy, 'origin' | 'secretFor'>;
  readonly control: ProxyControl;
  /** Files that are put into pages before the recorder, besides those the settings ask for. */
  readonly extraPaths?: readonly string[];
}

/** An answer may come as late as it likes: event streams and long polls are no failures. */
const NO_TIME_LIMIT = 2 ** 31 - 1;

/**
 * Each request to the app has a connection of its own: one that is kept for the next may be closed by the app in the
 * moment in which that is sent, which would then be lost.
 */
const CONNECTIONS = new Agent({ keepAlive: false });
const TLS_CONNECTIONS = new TlsAgent({ keepAlive: false });

const workerPrelude = () => readFile(builtPath('worker'), 'utf8');

/** Passes requests and web sockets on to the app, and puts the recorder into its HTML. */
export class RecordingProxy {
  readonly #serviceWorkers = new ServiceWorkers();
  readonly #control: ProxyControl;
  readonly #proxy;

  constructor(private readonly options: ProxyOptions) {
    this.#control = options.control;
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
        this.#failed(new Error('it switched to another protocol, which nobody had asked for'), response);
      });
      this.#guarded(response, () => this.#prepare(upstream, request));
    });
    this.#proxy.on('proxyReqWs', (upstream, _request, socket) =>
      this.#guarded(socket, () => {
        this.#restoreOrigin(upstream);
        withoutDeviceCookie(upstream);
      }),
    );
    this.#proxy.on('proxyRes', (answer, request, response) =>
      this.#guarded(response, () => this.#answer(answer, request, response)),
    );
    this.#proxy.on('error', (error, _request, response) => this.#failed(error, response));
  }

  handle(request: IncomingMessage, response: ServerResponse): void {
    this.#proxy.web(request, response).catch((error: Error) => this.#failed(error, response));
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
      this.#failed(error as Error, response);
    }
  }

  #prepare(upstream: HeaderTarget, request: IncomingMessage): void {
    this.#restoreOrigin(upstream);
    withoutDeviceCookie(upstream);
    this.#serviceWorkers.note(request);
    if (this.#asksForScript(request)) this.#control.asked(this.#urlOf(request));
    const accepted = request.headers['accept-encoding'];
    if (asksForWorker(request) || (this.#control.settings.mode === 'exact' && this.#asksForScript(request))) {
      for (const name of ['if-none-match', 'if-modified-since', 'range']) upstream.removeHeader(name);
      upstream.setHeader('accept-encoding', readableCodings(accepted ?? ''));
    }
    if (destinationOf(request) === 'other') return;
    const accepts = /\btext\/html\b|\*\/\*/.test(request.headers.accept ?? '*/*');
    if (accepts && accepted !== undefined) upstream.setHeader('accept-encoding', readableCodings(accepted));
  }

  #asksForScript(request: IncomingMessage): boolean {
    return asksForScript(request) || this.#serviceWorkers.askForScript(request);
  }

  /** The app must see its own origin where the browser names the proxy's. */
  #restoreOrigin(upstream: HeaderTarget): void {
    const proxyOrigin = this.options.gate.origin;
    for (const name of ['origin', 'referer']) {
      const value = upstream.getHeader(name);
      if (typeof value === 'string' && (value === proxyOrigin || value.startsWith(`${proxyOrigin}/`))) {
        upstream.setHeader(name, this.options.targetOrigin + value.slice(proxyOrigin.length));
      }
    }
  }

  #answer(answer: IncomingMessage, request: IncomingMessage, response: ServerResponse): void {
    const destination = destinationOf(request);
    const readable = decompressor(answer.headers['content-encoding']);
    const isPage = destination !== 'other' && isHtml(answer, request.method) && readable !== undefined;
    if (isPage) this.#page(answer, request, response, readable);
    else if (readable !== undefined && this.#isToBeRewritten(answer, request)) {
      void this.#script(answer, request, response, readable);
    } else {
      this.#head(answer, response, this.#context(request));
      pipeline(answer, response, ignore);
    }
  }

  #page(
    answer: IncomingMessage,
    request: IncomingMessage,
    response: ServerResponse,
    readable: Transform,
  ): void {
    const { proxyOrigin } = this.#origins();
    const isExact = this.#control.settings.mode === 'exact';
    if (isExact) this.#control.rewriter.getReady();
    const permit = {
      scriptUrls: recorderPaths(request, this.#control.settings, this.options.extraPaths).map(
        (path) => proxyOrigin + path,
      ),
      senderUrl: proxyOrigin + SENDER_PATH,
      ...(isExact ? { askedUrl: proxyOrigin + IN_WORK_PATH } : {}),
      nonce: randomBytes(12).toString('base64url'),
    };
    const injected: InjectionOptions = {
      ...permit,
      data: {
        'data-secret': this.options.gate.secretFor(request) ?? '',
        'data-mode': this.#control.settings.mode,
        'data-steps': this.#control.settings.steps,
        'data-labels': this.#control.settings.labels,
      },
      document: destinationOf(request) === 'document',
      onTooLong: () =>
        this.#control.rewriter.leave(
          withoutQuery(this.#urlOf(request).href),
          'what stands in the page behind its first megabytes is not recorded: a piece of it is too long',
        ),
      ...(isExact ? { rewriteInline: this.#inlineRewriter(answer, request) } : {}),
    };
    const head = (begin: string) => {
      if (response.headersSent) return;
      const charset = encodingPushedOut(begin, recorderElements(injected).length);
      const context = { ...this.#context(request), permit, ...(charset === undefined ? {} : { charset }) };
      this.#head(answer, response, context);
    };
    const isNamed = /\bcharset\s*=/i.test(answer.headers['content-type'] ?? '');
    if (isNamed) head('');
    const begin = isNamed ? new PassThrough(OF_TEXT) : tellingBegin(head);
    const injection = injectRecorder(injected);
    readable.setEncoding('latin1');
    injection.setEncoding('utf8');
    pipeline(answer, readable, begin, injection, toBytes, response, ignore);
  }

  #isToBeRewritten(answer: IncomingMessage, request: IncomingMessage): boolean {
    if (!isScript(answer)) return false;
    if (asksForWorker(request)) return true;
    if (this.#control.settings.mode !== 'exact' || !this.#asksForScript(request)) return false;
    const url = this.#urlOf(request).href;
    const left = this.#control.settings.leaveOut.find((text) => url.includes(text));
    if (left !== undefined) {
      this.#control.rewriter.leave(
        withoutQuery(url),
        `its calls are not recorded: its address holds "${left}", which is left out`,
      );
    }
    return left === undefined;
  }

  async #script(
    answer: IncomingMessage,
    request: IncomingMessage,
    response: ServerResponse,
    readable: Transform,
  ): Promise<void> {
    try {
      pipeline(answer, readable, ignore);
      const read = await textWithin(readable, MAX_SCRIPT);
      if (!read.isWhole) {
        this.#control.rewriter.leave(
          withoutQuery(this.#urlOf(request).href),
          `it is not recorded: it has more than ${MAX_SCRIPT / 2 ** 20} MB`,
        );
        this.#head(answer, response, { ...this.#context(request), rewritten: true });
        response.write(read.text);
        pipeline(readable, response, ignore);
        return;
      }
      const original = read.text;
      const url = this.#urlOf(request);
      const prelude = asksForWorker(request) ? await workerPrelude() : undefined;
      const header = answer.headers['sourcemap'] ?? answer.headers['x-sourcemap'] ?? null;
      const found = await fetchMap(url, original, header as string | null, this.#origins());
      const { map, mapUrl } = found;
      const script = { url: withoutQuery(url.href), text: original, map, mapUrl, prelude };
      const code = await this.#rewritten(script);
      this.#head(answer, response, { ...this.#context(request), rewritten: true });
      response.end(code);
    } catch (error) {
      this.#failed(error as Error, response);
    }
  }

  /**
   * The text of a worker that a page has made itself (a blob), with the recorder before it. It is known by its name
   * and content, as the address it will have is another one each time.
   */
  async workerScript(name: string, text: string, isModule: boolean): Promise<string> {
    const content = createHash('sha256').update(text).digest('hex').slice(0, 8);
    const url = `blob:${this.options.gate.origin}/${encodeURIComponent(name)}-${content}`;
    return this.#rewritten({ url, text, isModule, prelude: await workerPrelude() });
  }

  #rewritten(script: ScriptToRewrite): Promise<string> {
    return this.#control.settings.mode === 'exact'
      ? this.#control.rewriter.rewrite(script)
      : this.#control.rewriter.precede(script.url, script.text, script.prelude ?? '');
  }

  /** Rewrites scripts that stand in a page, unless its policy knows them by their very bytes. */
  #inlineRewriter(answer: IncomingMessage, request: IncomingMessage): InlineRewriter | undefined {
    const policy = String(answer.headers['content-security-policy'] ?? '');
    const page = withoutQuery(this.#urlOf(request).href);
    if (/'sha(256|384|512)-/.test(policy)) {
      this.#control.rewriter.leave(
        page,
        'the calls of scripts in the page are not recorded: its policy allows only their exact text',
      );
      return undefined;
    }
    return (script, place) => this.#control.rewriter.rewrite({ url: `${page}${place}`, ...script });
  }

  #context(request: IncomingMessage): AnswerContext {
    return {
      ...this.#origins(),
      ...(this.#control.settings.isolate ? { embedderPolicy: embedderPolicyFor(request) } : {}),
      asksAgain: this.#asksForScript(request),
    };
  }

  #origins(): Origins {
    return { targetOrigin: this.options.targetOrigin, proxyOrigin: this.options.gate.origin };
  }

  #urlOf(request: IncomingMessage): URL {
    return atOrigin(this.options.gate.origin, request.url ?? '/');
  }

  #head(answer: IncomingMessage, response: ServerResponse, context: AnswerContext): void {
    const { statusCode = 502, statusMessage = '' } = answer;
    const reason = SAYABLE.test(statusMessage) ? statusMessage : '';
    response.writeHead(statusCode, reason, answerHeaders(answer, context).flat());
  }

  #failed(error: Error, response: unknown): void {
    const reply = response as Partial<ServerResponse> & { destroy?: () => void };
    if (typeof reply.writeHead !== 'function' || reply.headersSent) {
      reply.destroy?.();
      return;
    }
    reply.writeHead(502, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' });
    reply.end?.(explainFailure(this.options.targetOrigin, error));
  }
}

/** An origin in its parts, as connections are opened to it: an address of version 6 without its brackets. */
function reachable(origin: string): { protocol: string; host: string; hostname: string; port: string } {
  const { protocol, host, hostname, port } = new URL(origin);
  const usual = protocol === 'https:' ? '443' : '80';
  return { protocol, host, hostname: hostname.replace(/^\[|\]$/g, ''), port: port || usual };
}

/** A stream of strings whose characters are bytes. */
const OF_TEXT = { decodeStrings: false, encoding: 'utf8' } as const;

/** What may stand behind a status (RFC 9112, section 4). */
const SAYABLE = /^[\t\x20-\x7e\x80-\xff]*$/;

/** One family of engines knows only the stricter of the two policies that isolate a page. */
function embedderPolicyFor(request: IncomingMessage): string {
  const agent = request.headers['user-agent'] ?? '';
  return /AppleWebKit/.test(agent) && !/Chrom/.test(agent) ? 'require-corp' : 'credentialless';
}

/** Whether Firefox's engine asks; others name it as well, without a version. */

/** Scripts above this pass as they are. Bytes. */
const MAX_SCRIPT = 64 * 2 ** 20;

/** What of an outgoing request is used here. */
interface HeaderTarget {
  removeHeader(name: string): void;
  getHeader(name: string): unknown;
  setHeader(name: string, value: string): unknown;
}

/** The app must not see by what a device was let in. */
function withoutDeviceCookie(upstream: HeaderTarget): void {
  const cookies = String(upstream.getHeader('cookie') ?? '').split(/;\s*/);
  const own = cookies.filter((pair) => !pair.startsWith(`${DEVICE_COOKIE}=`));
  if (own.length === cookies.length) return;
  if (own.length === 0) upstream.removeHeader('cookie');
  else upstream.setHeader('cookie', own.join('; '));
}

/** Turns strings of byte-valued characters back into bytes. */
async function* toBytes(source: AsyncIterable<string | Buffer>): AsyncGenerator<Buffer> {
  for await (const piece of source) yield Buffer.from(piece as string, 'latin1');
}

/** A browser that goes away in the middle of an answer is no error. */
function ignore(): void {}
