import { timingSafeEqual, randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

const LOOPBACK_HOSTS = ['localhost', '127.0.0.1', '[::1]'];

/** A secret for one run of the server. */
export function newSecret(): string {
  return randomBytes(18).toString('base64url');
}

export function sameSecret(given: string | undefined, expected: string): boolean {
  const a = Buffer.from(given ?? '');
  const b = Buffer.from(expected);
  return a.length === b.length && timingSafeEqual(a, b);
}

/**
 * Whether a request names this server as its host. A name that someone else's DNS points here does not, so a
 * foreign site cannot reach the server through a visitor's browser.
 */
export function hasOwnHost(request: IncomingMessage, port: number): boolean {
  const host = request.headers.host?.toLowerCase();
  return LOOPBACK_HOSTS.some((name) => host === `${name}:${port}` || (port === 80 && host === name));
}

/** Whether a request comes from a page of this server, or from no page at all. */
export function hasOwnOrigin(request: IncomingMessage, port: number): boolean {
  const { origin } = request.headers;
  return origin === undefined || LOOPBACK_HOSTS.some((name) => origin === `http://${name}:${port}`);
}

/** The secret among the subprotocols a web socket offers (RFC 6455, section 1.9). */
export function offeredSecret(request: IncomingMessage): string | undefined {
  return request.headers['sec-websocket-protocol']?.split(',')[1]?.trim();
}
