import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { CLOSE_WRONG_SECRET } from '@nettle-patch/core';
import { WebSocketServer, type WebSocket } from 'ws';
import { hasOwnHost, hasOwnOrigin, offeredSecret, sameSecret } from '../guard';

const LARGEST_FRAME = 64 * 1024 * 1024;
const SUBPROTOCOL = 'nettle-patch';

/** Accepts web sockets whose host, origin and secret are right; a wrong secret is told with a code of its own. */
export class GuardedSockets {
  readonly #server = new WebSocketServer({
    noServer: true,
    maxPayload: LARGEST_FRAME,
    handleProtocols: (offered) => (offered.has(SUBPROTOCOL) ? SUBPROTOCOL : false),
  });

  constructor(
    private readonly secret: string,
    private readonly accept: (socket: WebSocket) => void,
  ) {}

  upgrade(request: IncomingMessage, socket: Duplex, head: Buffer, port: number): void {
    if (!hasOwnHost(request, port) || !hasOwnOrigin(request, port)) {
      socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
      return;
    }
    this.#server.handleUpgrade(request, socket, head, (opened) => {
      if (sameSecret(offeredSecret(request), this.secret)) this.accept(opened);
      else opened.close(CLOSE_WRONG_SECRET, 'the secret is not that of this run');
    });
  }

  close(): void {
    for (const client of this.#server.clients) client.terminate();
    this.#server.close();
  }
}
