import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { CLOSE_TURNED_AWAY, CLOSE_WRONG_SECRET } from '@nettle-patch/core';
import { WebSocketServer, type WebSocket } from 'ws';
import type { Gate, Visitor } from '../gate/gate';
import { hasOwnHost, hasOwnOrigin, offeredSecret } from '../gate/guard';

const LARGEST_FRAME = 64 * 1024 * 1024;
const SUBPROTOCOL = 'nettle-patch';

/** Accepts web sockets whose host, origin and secret are right; a wrong secret is told with a code of its own. */
export class GuardedSockets {
  readonly #visitors = new Map<WebSocket, Visitor>();
  readonly #server = new WebSocketServer({
    noServer: true,
    maxPayload: LARGEST_FRAME,
    handleProtocols: (offered) => (offered.has(SUBPROTOCOL) ? SUBPROTOCOL : false),
  });

  constructor(
    private readonly gate: Pick<Gate, 'hosts' | 'visitorWith'>,
    private readonly accept: (socket: WebSocket, visitor: Visitor) => void,
  ) {}

  upgrade(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    const { hosts } = this.gate;
    if (!hasOwnHost(request, hosts) || !hasOwnOrigin(request, hosts)) {
      socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
      return;
    }
    this.#server.handleUpgrade(request, socket, head, (opened) => {
      const visitor = this.gate.visitorWith(offeredSecret(request));
      if (visitor === undefined) opened.close(CLOSE_WRONG_SECRET, 'the secret is not that of this run');
      else this.#take(opened, visitor);
    });
  }

  /** Ends the connections of a device. */
  turnAway(device: string): void {
    for (const [socket, visitor] of this.#visitors) {
      if (visitor.device === device) socket.close(CLOSE_TURNED_AWAY, 'turned away');
    }
  }

  close(): void {
    for (const client of this.#server.clients) client.terminate();
    this.#server.close();
  }

  #take(socket: WebSocket, visitor: Visitor): void {
    this.#visitors.set(socket, visitor);
    socket.on('close', () => this.#visitors.delete(socket));
    this.accept(socket, visitor);
  }
}
