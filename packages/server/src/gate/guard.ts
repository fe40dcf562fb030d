import { timingSafeEqual, randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

/** Names of this computer that nobody else can reach it by. */
export const LOOPBACK_NAMES = ['localhost', '127.0.0.1', '[::1]'];
const HTTP_PORT = 80;

/** A secret for one run of the server, or for one device. */
export function newSecret(): string {
  return randomBytes(18).toString('base64url');
}

export function sameSecret(given: string | undefined, expected: string): boolean {
  const a = Buffer.from(given ?? '');
  const b = Buffer.from(expected);
  return a.length === b.length && timingSafeEqual(a, b);
}

/** How a request may name a server that listens at a port under some names. */
export function hostsAt(port: number, names: readonly string[] = LOOPBACK_NAMES): string[] {
  return names.flatMap((name) => (port === HTTP_PORT ? [name, `${name}:${port}`] : [`${name}:${port}`]));
}

/**
 * Whether a request names this server as its host. A name that someone else's DNS points here does not, so a
 * foreign site cannot reach the server through a visitor's browser.
 */
export function hasOwnHost(request: IncomingMessage, hosts: readonly string[]): boolean {
  return hosts.includes(request.headers.host?.toLowerCase() ?? '');
}

/** Whether a request comes from a page of this server, or from no page at all. */
export function hasOwnOrigin(request: IncomingMessage, hosts: readonly string[]): boolean {
  const { origin } = request.headers;
  return origin === undefined || hosts.some((host) => origin === `http://${host}`);
}

/** The secret among the subprotocols a web socket offers (RFC 6455, section 1.9). */
export function offeredSecret(request: IncomingMessage): string | undefined {
  return request.headers['sec-websocket-protocol']?.split(',')[1]?.trim();
}
