import { TARGET_SOCKET_PATH } from '@nettle-patch/core';

/** What happens on a way to the server. */
export interface LinkEvents {
  /** It can be spoken on; told again where it was lost and taken up in between. */
  opened(): void;
  heard(text: string): void;
  /** @param code why (RFC 6455, section 7.4) */
  closed(code: number): void;
}

/** A way to the server and back. */
export interface Link {
  /** What is said before it is open, or after it was closed, is lost. */
  say(text: string): void;
}

/** Where pages of a server connect. @param base an address at that server */
export function targetSocketUrl(base: string): string {
  const url = new URL(TARGET_SOCKET_PATH, base);
  url.protocol = url.protocol === 'https:' ? 'wss:' : 'ws:';
  return url.href;
}
