import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Duplex } from 'node:stream';
import { pipeline } from 'node:stream';
import { RECORDER_PATH } from '@nettle-patch/core';
import { createProxyServer } from 'httpxy';
import type { Socket } from 'node:net';
import { answerHeaders } from './answer-headers';
import { READABLE_CODINGS, decompressor } from './decompress';
import { destinationOf, isHtml } from './html-answer';
import { injectRecorder } from './html-injection';
import { explainFailure } from './failure-page';

export interface ProxyOptions {
  /** Origin of the app's own server. */
  readonly targetOrigin: string;
  /** Origin the browser talks to. Known once the proxy listens. */
  readonly proxyOrigin: () => string;
  /** Secret the recorder shows when it connects. */
  readonly secret: string;
}

/** An answer may come as late as it likes: event streams and long polls are no failures. */
const NO_TIME_LIMIT = 2 ** 31 - 1;

/** Passes requests and web sockets on to the app, and puts the recorder into its HTML. */
export class RecordingProxy {
  readonly #proxy;

  constructor(private readonly options: ProxyOptions) {
    this.#proxy = createProxyServer({
      target: options.targetOrigin,
      changeOrigin: true,
      selfHandleResponse: true,
      secure: false,
      proxyTimeout: NO_TIME_LIMIT,
    });
    this.#proxy.on('proxyReq', (upstream, request) => this.#prepare(upstream, request));
    this.#proxy.on('proxyReqWs', (upstream) => this.#restoreOrigin(upstream));
    this.#proxy.on('proxyRes', (answer, request, response) => this.#answer(answer, request, response));
    this.#proxy.on('error', (error, _request, response) => this.#failed(error, response));
  }

  handle(request: IncomingMessage, response: ServerResponse): void {
    this.#proxy.web(request, response).catch((error: Error) => this.#failed(error, response));
  }

  upgrade(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    this.#proxy
      .ws(request, socket as Socket, { target: this.options.targetOrigin }, head)
      .catch(() => socket.destroy());
  }

  #prepare(upstream: HeaderTarget, request: IncomingMessage): void {
    this.#restoreOrigin(upstream);
    if (destinationOf(request) === 'other') return;
    const accepts = /\btext\/html\b|\*\/\*/.test(request.headers.accept ?? '*/*');
    if (accepts && request.headers['accept-encoding'] !== undefined) {
      upstream.setHeader('accept-encoding', READABLE_CODINGS);
    }
  }

  /** The app must see its own origin where the browser names the proxy's. */
  #restoreOrigin(upstream: HeaderTarget): void {
    const proxyOrigin = this.options.proxyOrigin();
    for (const name of ['origin', 'referer']) {
      const value = upstream.getHeader(name);
      if (typeof value === 'string' && value.startsWith(proxyOrigin)) {
        upstream.setHeader(name, this.options.targetOrigin + value.slice(proxyOrigin.length));
      }
    }
  }

  #answer(answer: IncomingMessage, request: IncomingMessage, response: ServerResponse): void {
    const destination = destinationOf(request);
    const readable = decompressor(answer.headers['content-encoding']);
    const inject = destination !== 'other' && isHtml(answer, request.method) && readable !== undefined;
    const proxyOrigin = this.options.proxyOrigin();
    const permit = { recorderUrl: proxyOrigin + RECORDER_PATH, nonce: randomBytes(12).toString('base64url') };
    const context = { targetOrigin: this.options.targetOrigin, proxyOrigin };
    const headers = answerHeaders(answer, inject ? { ...context, permit } : context);
    response.writeHead(answer.statusCode ?? 502, answer.statusMessage, headers.flat());
    if (!inject) {
      pipeline(answer, response, ignore);
      return;
    }
    const injection = injectRecorder({
      ...permit,
      secret: this.options.secret,
      document: destination === 'document',
    });
    readable.setEncoding('latin1');
    injection.setEncoding('utf8');
    pipeline(answer, readable, injection, toBytes, response, ignore);
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

/** What of an outgoing request is used here. */
interface HeaderTarget {
  getHeader(name: string): unknown;
  setHeader(name: string, value: string): unknown;
}

/** Turns strings of byte-valued characters back into bytes. */
async function* toBytes(source: AsyncIterable<string | Buffer>): AsyncGenerator<Buffer> {
  for await (const piece of source) yield Buffer.from(piece as string, 'latin1');
}

/** A browser that goes away in the middle of an answer is no error. */
function ignore(): void {}
