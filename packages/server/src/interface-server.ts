import type { Server } from 'node:http';
import { join } from 'node:path';
import { INTERFACE_SOCKET_PATH } from '@nettle-patch/core';
import express from 'express';
import { apiRoutes, refuse, type ApiOptions } from './api';
import { builtPath } from './assets';
import type { LoopbackGate } from './gate/access-policy';
import { hasOwnHost, hasOwnOrigin } from './gate/guard';
import { RateLimiters, WRONG_SECRETS } from './limits/rate-limiter';
import { onUpgrade, serverWithTimeouts } from './limits/server-with-timeouts';
import type { Relay } from './relay/relay';
import { GuardedSockets } from './relay/sockets';

export interface InterfaceServerOptions extends ApiOptions {
  readonly gate: LoopbackGate;
  readonly relay: Relay;
  /** More that the interface may ask, by the first part of its path below `/api`. */
  readonly more: Readonly<Record<string, express.Router>>;
}

const SECURITY_HEADERS = {
  'Content-Security-Policy': [
    "default-src 'self'",
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "connect-src 'self' ws://localhost:* ws://127.0.0.1:*",
    // Trials run in a frame at an origin of their own.
    "frame-src 'self' http://localhost:* http://127.0.0.1:*",
    "object-src 'none'",
    "base-uri 'self'",
    "frame-ancestors 'none'",
  ].join('; '),
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

/** The origin of the tool itself: its interface, and the connection on which it follows targets. */
export class InterfaceServer {
  readonly http: Server;
  readonly #sockets: GuardedSockets;

  constructor(private readonly options: InterfaceServerOptions) {
    this.#sockets = new GuardedSockets(options.gate, (socket) => options.relay.addInterface(socket));
    const app = this.#app();
    this.http = serverWithTimeouts((request, response) => app(request, response));
    onUpgrade(this.http, (request, socket, head) => {
      if (request.url === INTERFACE_SOCKET_PATH) this.#sockets.upgrade(request, socket, head);
      else socket.destroy();
    });
  }

  close(): void {
    this.#sockets.close();
    this.http.close();
    this.http.closeAllConnections();
  }

  #app(): express.Express {
    const app = express();
    const wrong = new RateLimiters(WRONG_SECRETS);
    const { gate } = this.options;
    const pages = builtPath('interface');
    app.disable('x-powered-by');
    app.use((request, response, next) => {
      if (!hasOwnHost(request, gate.hosts)) {
        response.status(421).type('text').send('This server does not answer to that name.');
        return;
      }
      response.set(SECURITY_HEADERS);
      next();
    });
    app.use('/api', (request, response, next) => {
      const given = request.get('authorization')?.replace(/^Bearer /, '');
      const address = request.socket.remoteAddress ?? '';
      if (hasOwnOrigin(request, gate.hosts) && gate.visitorWith(given) !== undefined) next();
      else if (!wrong.take(address)) response.status(429).type('text').send('Too many wrong secrets.');
      else response.status(401).type('text').send('The secret is not that of this run.');
    });
    app.use('/api', apiRoutes(this.options));
    for (const [path, routes] of Object.entries(this.options.more)) app.use(`/api/${path}`, routes);
    app.use(express.static(pages, { index: false, maxAge: 0 }));
    app.get(/^\/[a-z]*(\/.*)?$/, (request, response, next) => {
      if (request.path.includes('.') || request.path.startsWith('/api')) next();
      else response.sendFile(join(pages, 'index.html'), { maxAge: 0 });
    });
    app.use(refuse);
    return app;
  }
}
