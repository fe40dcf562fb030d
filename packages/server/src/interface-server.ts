import { createServer, type Server } from 'node:http';
import { join } from 'node:path';
import { INTERFACE_SOCKET_PATH, settingsSchema, type ProxySettings } from '@nettle-patch/core';
import express from 'express';
import { ValidationError } from 'yup';
import { builtPath } from './assets';
import type { ScriptRewriter } from './exact/script-rewriter';
import { hasOwnHost, hasOwnOrigin, sameSecret } from './guard';
import { phoneSchema, type Phones } from './phone/phones';
import type { Relay } from './relay/relay';
import { GuardedSockets } from './relay/sockets';
import { fetchScript } from './sources/fetch-script';

export interface InterfaceServerOptions {
  readonly secret: string;
  readonly relay: Relay;
  readonly port: () => number;
  readonly proxyOrigin: () => string;
  readonly targetOrigin: string;
  readonly proxy: ProxyControl;
  readonly phones: Phones;
}

/** What the interface may ask of the proxy and set on it. */
export interface ProxyControl {
  readonly rewriter: ScriptRewriter;
  settings: ProxySettings;
}

const SECURITY_HEADERS = {
  'Content-Security-Policy': [
    "default-src 'self'",
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "connect-src 'self' ws://localhost:* ws://127.0.0.1:*",
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
    this.#sockets = new GuardedSockets(options.secret, (socket) => options.relay.addInterface(socket));
    this.http = createServer(this.#app());
    this.http.on('upgrade', (request, socket, head) => {
      if (request.url === INTERFACE_SOCKET_PATH) this.#sockets.upgrade(request, socket, head, options.port());
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
    const pages = builtPath('interface');
    app.disable('x-powered-by');
    app.use((request, response, next) => {
      if (!hasOwnHost(request, this.options.port())) {
        response.status(421).type('text').send('This server does not answer to that name.');
        return;
      }
      response.set(SECURITY_HEADERS);
      next();
    });
    app.use('/api', (request, response, next) => {
      const given = request.get('authorization')?.replace(/^Bearer /, '');
      if (hasOwnOrigin(request, this.options.port()) && sameSecret(given, this.options.secret)) next();
      else response.status(401).type('text').send('The secret is not that of this run.');
    });
    app.get('/api/script', async (request, response) => {
      const url = typeof request.query['url'] === 'string' ? request.query['url'] : '';
      const { proxyOrigin, targetOrigin, proxy } = this.options;
      const rewritten = proxy.rewriter.textAt(url);
      response.json(rewritten ?? (await fetchScript(url, { proxyOrigin: proxyOrigin(), targetOrigin })));
    });
    app.get(
      '/api/left-alone',
      (_request, response) => void response.json(this.options.proxy.rewriter.leftAlone),
    );
    app.get('/api/settings', (_request, response) => void response.json(this.options.proxy.settings));
    app.put('/api/settings', express.json({ limit: '20kb' }), (request, response) => {
      try {
        this.options.proxy.settings = settingsSchema.validateSync(request.body, { strict: true });
        response.json(this.options.proxy.settings);
      } catch (error) {
        if (!(error instanceof ValidationError)) throw error;
        response.status(400).type('text').send(error.message);
      }
    });
    app.post('/api/phone', express.json({ limit: '20kb' }), (request, response) => {
      try {
        this.options.phones.start(phoneSchema.validateSync(request.body, { strict: true }));
        response.status(204).end();
      } catch (error) {
        if (!(error instanceof ValidationError)) throw error;
        response.status(400).type('text').send(error.message);
      }
    });
    app.delete('/api/phone', (_request, response) => {
      this.options.phones.stop();
      response.status(204).end();
    });
    app.use(express.static(pages, { index: false, maxAge: 0 }));
    app.get(/^\/[a-z]*(\/.*)?$/, (request, response, next) => {
      if (request.path.includes('.') || request.path.startsWith('/api')) next();
      else response.sendFile(join(pages, 'index.html'), { maxAge: 0 });
    });
    return app;
  }
}
