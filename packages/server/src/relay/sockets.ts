import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { CLOSE_TOO_MUCH, CLOSE_TURNED_AWAY, CLOSE_WRONG_SECRET, SUBPROTOCOL } from '@nettle-patch/core';
import { WebSocketServer, type WebSocket } from 'ws';
import type { AccessPolicy, Client } from '../gate/access-policy';
import { hasOwnHost, hasOwnOrigin, offeredSecret } from '../gate/guard';
import { RateLimiters, WRONG_SECRETS } from '../limits/rate-limiter';
import { keepAlive } from '../limits/heartbeat';

const MAX_FRAME = 64 * 1024 * 1024;
const MAX_OF_A_DEVICE = 32;

function refuse(socket: Duplex, status: string): void {
  socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`);
}

/** Accepts web sockets whose host, origin and secret are right; a wrong secret is told with a code of its own. */
export class GuardedSockets {
  readonly #visitors = new Map<WebSocket, Client>();
  readonly #wrong = new RateLimiters(WRONG_SECRETS);
  readonly #server = new WebSocketServer({
    noServer: true,
    maxPayload: MAX_FRAME,
    handleProtocols: (offered) => (offered.has(SUBPROTOCOL) ? SUBPROTOCOL : false),
  });
  readonly #endWatch = keepAlive(() => this.#visitors.keys());

  constructor(
    private readonly gate: Pick<AccessPolicy, 'hosts' | 'visitorWith'>,
    private readonly accept: (socket: WebSocket, visitor: Client) => void,
  ) {}

  upgrade(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    const { hosts } = this.gate;
    const address = request.socket.remoteAddress ?? '';
    const visitor = this.gate.visitorWith(offeredSecret(request));
    // A page that does not come through here has shown a code to get its secret.
    const isExpected = hasOwnOrigin(request, hosts) || (visitor !== undefined && visitor.device !== null);
    if (!hasOwnHost(request, hosts) || !isExpected) refuse(socket, '403 Forbidden');
    else {
      if (visitor === undefined && !this.#wrong.take(address)) refuse(socket, '429 Too Many Requests');
      else {
        this.#server.handleUpgrade(request, socket, head, (opened) => {
          if (visitor === undefined) opened.close(CLOSE_WRONG_SECRET, 'the secret is not that of this run');
          else this.#take(opened, visitor);
        });
      }
    }
  }

  /** Ends the connections of a device. */
  revoke(device: string): void {
    for (const [socket, visitor] of this.#visitors) {
      if (visitor.device === device) socket.close(CLOSE_TURNED_AWAY, 'turned away');
    }
  }

  close(): void {
    this.#endWatch();
    for (const client of this.#server.clients) client.terminate();
    this.#server.close();
  }

  #take(socket: WebSocket, visitor: Client): void {
    socket.on('error', () => socket.terminate());
    const others = [...this.#visitors.values()].filter(({ device }) => device === visitor.device);
    if (visitor.device !== null && others.length >= MAX_OF_A_DEVICE) {
      socket.close(CLOSE_TOO_MUCH, `more than ${MAX_OF_A_DEVICE} connections of one device`);
      return;
    }
    this.#visitors.set(socket, visitor);
    socket.on('close', () => this.#visitors.delete(socket));
    this.accept(socket, visitor);
  }
}
