import type { IncomingMessage } from 'node:http';
import { DEVICE_COOKIE } from '../lan/lan-gate';
import type { Origins } from '../sources/fetch-script';
import { readableCodings } from './decompress';
import { destinationOf } from './html-answer';

/** What of an outgoing request is used here. */
export interface HeaderTarget {
  removeHeader(name: string): void;
  getHeader(name: string): unknown;
  setHeader(name: string, value: string): unknown;
}

/** Has the app see its own origin where the browser names the proxy's, and not by what a device was let in. */
export function asFromBrowser(upstream: HeaderTarget, { proxyOrigin, targetOrigin }: Origins): void {
  for (const name of ['origin', 'referer']) {
    const value = upstream.getHeader(name);
    if (typeof value === 'string' && (value === proxyOrigin || value.startsWith(`${proxyOrigin}/`))) {
      upstream.setHeader(name, targetOrigin + value.slice(proxyOrigin.length));
    }
  }
  withoutDeviceCookie(upstream);
}

/** Asks for an answer that can be read here, as a page or a script that is to be changed must be. @param isWhole whether nothing less than all of it is of use */
export function asReadable(upstream: HeaderTarget, request: IncomingMessage, isWhole: boolean): void {
  const accepted = request.headers['accept-encoding'];
  if (isWhole) {
    for (const name of ['if-none-match', 'if-modified-since', 'range']) upstream.removeHeader(name);
    upstream.setHeader('accept-encoding', readableCodings(accepted ?? ''));
  }
  if (destinationOf(request) === 'other' || accepted === undefined) return;
  if (/\btext\/html\b|\*\/\*/.test(request.headers.accept ?? '*/*'))
    upstream.setHeader('accept-encoding', readableCodings(accepted));
}

function withoutDeviceCookie(upstream: HeaderTarget): void {
  const cookies = String(upstream.getHeader('cookie') ?? '').split(/;\s*/);
  const own = cookies.filter((pair) => !pair.startsWith(`${DEVICE_COOKIE}=`));
  if (own.length === cookies.length) return;
  if (own.length === 0) upstream.removeHeader('cookie');
  else upstream.setHeader('cookie', own.join('; '));
}
