import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import { readFile } from 'node:fs/promises';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import {
  FILE_PATH,
  IN_WORK_PATH,
  JOIN_PATH,
  BLINK_PATH,
  FRAME_PATH,
  HOLDER_PATH,
  LISTENERS_PATH,
  MODULE_PATH,
  ProtocolError,
  linesWithLabels,
  RECORDER_PATH,
  RESERVED_PATH,
  ROWS_PATH,
  SENDER_PATH,
  FINE_PATH,
  REWRITTEN_PATH,
  SIGN_PATH,
  STEPS_PATH,
  TAG_PATH,
  WORKER_SCRIPT_PATH,
  TARGET_SOCKET_PATH,
} from '@nettle-patch/core';
import { builtPath } from './assets';
import type { AccessPolicy, Client } from './gate/access-policy';
import { hasOwnHost, hasOwnOrigin } from './gate/guard';
import { RateLimiters, WRONG_SECRETS } from './limits/rate-limiter';
import { onUpgrade, serverWithTimeouts } from './limits/server-with-timeouts';
import { refusedPage } from './lan/pages';
import type { ProxyOptions } from './proxy/app-answers';
import { RecordingProxy } from './proxy/proxy';
import { isBlink } from './proxy/recorder-paths';
import type { Relay } from './relay/relay';
import { GuardedSockets } from './relay/sockets';

/** Files that pages of any origin may load. */
const SCRIPTS = new Map<string, Parameters<typeof builtPath>[0]>([
  [RECORDER_PATH, 'recorder'],
  [SENDER_PATH, 'sender'],
  [STEPS_PATH, 'steps'],
  [FINE_PATH, 'fine'],
  [REWRITTEN_PATH, 'rewritten'],
  [HOLDER_PATH, 'holder'],
  [BLINK_PATH, 'blink'],
  [FRAME_PATH, 'frame'],
  [LISTENERS_PATH, 'listeners'],
  [SIGN_PATH, 'sign'],
  [TAG_PATH, 'tag'],
  [MODULE_PATH, 'module'],
]);

const MAX_BODY = 8 * 1024 * 1024;
const MAX_FILE = 64 * 1024 * 1024;
/** A body that stands still so long is not waited for. Milliseconds. */
const BODY_LIMIT_MS = 15_000;

export interface ProxyServerOptions extends Omit<ProxyOptions, 'targetOrigin'> {
  /** Origin of the app's own server; without one, only what connects by itself is let in. */
  readonly targetOrigin?: string;
  readonly gate: AccessPolicy;
  readonly relay: Relay;
  /** Answers what is asked before anybody has been let in. @returns whether it was that */
  readonly handlePairing?: (request: IncomingMessage, response: ServerResponse) => boolean;
}

/** The origin the recorded app is opened at: the app behind it, and the recorder on a reserved path. */
export class ProxyServer {
  readonly http: Server;
  readonly #proxy: RecordingProxy | undefined;
  readonly #sockets: GuardedSockets;
  readonly #wrong = new RateLimiters(WRONG_SECRETS);

  constructor(private readonly options: ProxyServerOptions) {
    const { gate, relay, targetOrigin } = options;
    if (targetOrigin !== undefined) this.#proxy = new RecordingProxy({ ...options, targetOrigin });
    this.#sockets = new GuardedSockets(gate, (socket, visitor) => relay.addTarget(socket, visitor));
    this.http = serverWithTimeouts((request, response) => this.#handle(request, response));
    onUpgrade(this.http, (request, socket, head) => {
      if (pathOf(request) === TARGET_SOCKET_PATH) this.#sockets.upgrade(request, socket, head);
      else if (this.#proxy && hasOwnHost(request, gate.hosts) && gate.secretFor(request) !== undefined) {
        this.#proxy.upgrade(request, socket, head);
      } else socket.destroy();
    });
  }

  /** Ends the connections of a device that was turned away. */
  revoke(device: string): void {
    this.#sockets.revoke(device);
  }

  close(): void {
    this.#sockets.close();
    this.http.close();
    this.http.closeAllConnections();
  }

  async #handle(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { gate, handlePairing } = this.options;
    if (!hasOwnHost(request, gate.hosts)) reply(response, 421, 'This server does not answer to that name.');
    else if (handlePairing?.(request, response)) return;
    else if (pathOf(request).startsWith(RESERVED_PATH)) await this.#reserved(request, response);
    else if (gate.secretFor(request) === undefined) refuse(response);
    else if (this.#proxy === undefined)
      reply(response, 404, 'No app is opened here. Choose one in the tool.');
    else this.#proxy.handle(request, response);
  }

  async #reserved(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const path = pathOf(request);
    const script = SCRIPTS.get(path);
    if (script !== undefined) {
      const isTagOfOthers = script === 'tag' && !isBlink(request.headers['user-agent'] ?? '');
      const text = await readFile(builtPath(isTagOfOthers ? 'tagOthers' : script));
      const { coding, bytes } = compressed(text, String(request.headers['accept-encoding'] ?? ''));
      const headers = { 'content-type': 'text/javascript; charset=utf-8', 'cache-control': 'no-store' };
      const shared = {
        'access-control-allow-origin': '*',
        'cross-origin-resource-policy': 'cross-origin',
        'cross-origin-embedder-policy': 'require-corp',
        ...(coding === undefined ? {} : { 'content-encoding': coding }),
      };
      response.writeHead(200, { ...headers, ...shared }).end(bytes);
    } else if (path === ROWS_PATH && request.method === 'POST') {
      await this.#takeRows(request, response);
    } else if (!hasOwnOrigin(request, this.options.gate.hosts) || isCrossSite(request)) {
      reply(response, 403, 'Only pages of this origin may ask for this.');
    } else if (path === JOIN_PATH && request.method === 'GET') {
      const secret = this.options.gate.secretFor(request);
      reply(response, secret === undefined ? 403 : 200, secret ?? 'It was not let in.');
    } else if (path === IN_WORK_PATH && request.method === 'GET') {
      if (this.options.gate.secretFor(request) === undefined) refuse(response);
      else reply(response, 200, JSON.stringify(this.options.control.rewriter.inWork));
    } else if (path === FILE_PATH && isOfPage(request)) {
      reply(response, 403, 'Programs may hand in a recording; a page may not, as nobody asked it to.');
    } else if (path === FILE_PATH && request.method === 'POST') {
      await this.#takeFile(request, response);
    } else if (path === WORKER_SCRIPT_PATH && request.method === 'POST' && this.#proxy !== undefined) {
      await this.#workerScript(this.#proxy, request, response);
    } else {
      reply(response, 404, 'There is nothing at this address.');
    }
  }

  async #takeRows(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await this.#body(request, response);
    if (body === undefined) return;
    try {
      this.options.relay.takeLastRows(linesWithLabels(body.bytes.toString('utf8')), body.visitor);
      reply(response, 204, '');
    } catch (error) {
      if (!(error instanceof ProtocolError)) throw error;
      reply(response, 400, error.message);
    }
  }

  async #takeFile(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await this.#body(request, response, MAX_FILE);
    if (body === undefined) return;
    if (this.options.relay.takeFile(body.bytes)) reply(response, 202, '');
    else
      reply(response, 503, 'The tool is not open in any browser, and it is there that recordings are kept.');
  }

  async #workerScript(
    proxy: RecordingProxy,
    request: IncomingMessage,
    response: ServerResponse,
  ): Promise<void> {
    const body = await this.#body(request, response);
    if (body === undefined) return;
    const asked = queryOf(request);
    const isModule = asked.get('type') === 'module';
    reply(
      response,
      200,
      await proxy.workerScript(request, asked.get('name') ?? '', body.bytes.toString('utf8'), isModule),
    );
  }

  /** The body of a request that shows the secret; else the request is answered. */
  async #body(
    request: IncomingMessage,
    response: ServerResponse,
    most = MAX_BODY,
  ): Promise<{ bytes: Buffer; visitor: Client } | undefined> {
    const visitor = this.options.gate.visitorWith(queryOf(request).get('secret') ?? undefined);
    if (visitor === undefined) {
      const status = this.#wrong.take(request.socket.remoteAddress ?? '') ? 401 : 429;
      reply(response, status, 'The secret is not that of this run.');
      return undefined;
    }
    request.setTimeout(BODY_LIMIT_MS, () => request.destroy());
    const pieces: Buffer[] = [];
    let size = 0;
    for await (const piece of request as AsyncIterable<Buffer>) {
      size += piece.length;
      if (size > most) {
        reply(response, 413, `More than ${most / 2 ** 20} MB at once.`);
        return undefined;
      }
      pieces.push(piece);
    }
    return { bytes: Buffer.concat(pieces), visitor };
  }
}

function queryOf(request: IncomingMessage): URLSearchParams {
  return new URLSearchParams(/\?(.*)$/s.exec(request.url ?? '')?.[1] ?? '');
}

/** The bytes in the smallest coding the browser takes (RFC 9110, section 12.5.3). */
function compressed(text: Buffer, accepted: string): { coding?: string; bytes: Buffer } {
  if (/\bbr\b/.test(accepted)) return { coding: 'br', bytes: brotliCompressSync(text) };
  if (/\bgzip\b/.test(accepted)) return { coding: 'gzip', bytes: gzipSync(text) };
  return { bytes: text };
}

function isCrossSite(request: IncomingMessage): boolean {
  const site = request.headers['sec-fetch-site'];
  return site !== undefined && site !== 'same-origin' && site !== 'none';
}

/** Whether script in a page asks: a browser then says from where (Fetch, section 3.1; Fetch Metadata). */
function isOfPage({ headers }: IncomingMessage): boolean {
  return headers.origin !== undefined || headers['sec-fetch-site'] !== undefined;
}

function pathOf(request: IncomingMessage): string {
  return (request.url ?? '/').split('?', 1)[0]!;
}

function refuse(response: ServerResponse): void {
  response
    .writeHead(403, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' })
    .end(refusedPage('This address is open to devices that were let in.'));
}

function reply(response: ServerResponse, status: number, text: string): void {
  response
    .writeHead(status, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' })
    .end(text);
}
