import type { IncomingMessage, ServerResponse } from 'node:http';
import { PAIR_PATH } from '@nettle-patch/core';
import { hasOwnOrigin } from '../gate/guard';
import { RateLimiters, type Rate } from '../limits/rate-limiter';
import type { Devices } from './devices';
import { DEVICE_COOKIE, type LanGate } from './lan-gate';
import { refusedPage, welcomePage } from './pages';

const HTML = {
  'content-type': 'text/html; charset=utf-8',
  'cache-control': 'no-store',
  'content-security-policy':
    "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'",
  'referrer-policy': 'same-origin',
};

/** Codes that one address may try. */
const TRIES: Rate = { burst: 5, perSecond: 1 / 12 };

/** Lets devices in: a page that says what happens, and the button on it. Programs ask for plain text. */
export class Pairing {
  readonly #tries = new RateLimiters(TRIES);

  constructor(
    private readonly devices: Devices,
    private readonly gate: LanGate,
    /** Whether what is typed is kept. */
    private readonly keepsWords: () => boolean,
  ) {}

  /** Answers what is asked on the way in. @returns whether it was that */
  handle(request: IncomingMessage, response: ServerResponse): boolean {
    const path = (request.url ?? '/').split('?', 1)[0]!;
    if (!path.startsWith(PAIR_PATH)) return false;
    const code = path.slice(PAIR_PATH.length);
    if (request.method === 'GET') response.writeHead(200, HTML).end(welcomePage(path, this.keepsWords()));
    else if (request.method === 'POST' && (isProgram(request) || hasOwnOrigin(request, this.gate.hosts))) {
      this.#pair(code, request, response);
    } else response.writeHead(405, { allow: 'GET, POST' }).end();
    return true;
  }

  #pair(code: string, request: IncomingMessage, response: ServerResponse): void {
    const address = request.socket.remoteAddress ?? '';
    const anyPage = isProgram(request) ? { 'access-control-allow-origin': '*' } : {};
    if (!this.#tries.take(address)) {
      response
        .writeHead(429, { ...HTML, ...anyPage })
        .end(refusedPage('Too many codes came from here. Wait a minute.'));
      return;
    }
    const device = this.devices.pair(code, address);
    if (device === undefined)
      response.writeHead(403, { ...HTML, ...anyPage }).end(refusedPage('This code does not hold any more.'));
    else if (isProgram(request)) {
      const headers = { 'content-type': 'text/plain', 'cache-control': 'no-store', ...anyPage };
      response.writeHead(200, headers).end(device.secret);
    } else {
      const cookie = `${DEVICE_COOKIE}=${device.secret}; Path=/; HttpOnly; SameSite=Lax`;
      response.writeHead(303, { location: '/', 'set-cookie': cookie, 'cache-control': 'no-store' }).end();
    }
  }
}

/** Whether a program asks, or a page that does not come through here: whoever shows the code is let in. */
function isProgram({ headers }: IncomingMessage): boolean {
  return (headers.accept ?? '').startsWith('text/plain');
}
