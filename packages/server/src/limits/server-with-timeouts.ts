import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Duplex } from 'node:stream';
import { log } from '../log';

const HEAD_LIMIT_MS = 15_000;

/** Has a server answer those who want another protocol; what goes wrong costs no more than their own connection. */
export function onUpgrade(
  server: Server,
  handle: (request: IncomingMessage, socket: Duplex, head: Buffer) => void,
): void {
  server.on('upgrade', (request, socket, head) => {
    try {
      handle(request, socket, head);
    } catch (error) {
      log(`${request.method} ${request.url}: ${String(error)}`);
      socket.destroy();
    }
  });
}

/**
 * A server that a client which breaks off, stalls or speaks nonsense cannot bring down.
 * @param headLimitMs a request whose head takes longer to come is not waited for
 */
export function serverWithTimeouts(
  handle: (request: IncomingMessage, response: ServerResponse) => void | Promise<void>,
  headLimitMs = HEAD_LIMIT_MS,
): Server {
  const options = { headersTimeout: headLimitMs, connectionsCheckingInterval: headLimitMs / 3 };
  const server = createServer(options, (request, response) => {
    void Promise.resolve()
      .then(() => handle(request, response))
      .catch((error: unknown) => {
        if (!request.destroyed && !response.destroyed)
          log(`${request.method} ${request.url}: ${String(error)}`);
        if (response.headersSent) response.destroy();
        else response.writeHead(500, { 'content-type': 'text/plain' }).end('Something went wrong here.');
      });
  });
  server.on('upgrade', (_request, socket) => socket.on('error', () => socket.destroy()));
  return server;
}
