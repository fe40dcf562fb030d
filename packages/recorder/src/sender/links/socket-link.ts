import { SUBPROTOCOL } from '@nettle-patch/core';
import type { Link, LinkEvents } from './link';

/** A web socket of this worker. */
export class SocketLink implements Link {
  readonly #socket: WebSocket;

  constructor(url: string, secret: string, events: LinkEvents) {
    this.#socket = new WebSocket(url, [SUBPROTOCOL, secret]);
    this.#socket.addEventListener('open', () => events.opened());
    this.#socket.addEventListener('message', ({ data }: MessageEvent<string>) => events.heard(data));
    this.#socket.addEventListener('close', ({ code }) => events.closed(code));
  }

  say(text: string): void {
    if (this.#socket.readyState === WebSocket.OPEN) this.#socket.send(text);
  }

  close(): void {
    this.#socket.close();
  }
}
