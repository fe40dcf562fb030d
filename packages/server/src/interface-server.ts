import type { Server } from 'node:http';
import { join } from 'node:path';
import { BadStepsError, INTERFACE_SOCKET_PATH, settingsSchema } from '@nettle-patch/core';
import express from 'express';
import { ValidationError, object, string } from 'yup';
import { builtPath } from './assets';
import { Again, againSchema, browsersHere } from './drive/again';
import type { LoopbackGate } from './gate/gate';
import { hasOwnHost, hasOwnOrigin } from './gate/guard';
import { Allowances, type Rate } from './limits/allowance';
import { patientServer } from './limits/patient-server';
import { log } from './log';
import { NoLanError, type Lan } from './lan/lan';
import { phoneSchema, type Phones } from './phone/phones';
import type { ProxyControl } from './proxy/proxy';
import type { Relay } from './relay/relay';
import { GuardedSockets } from './relay/sockets';
import { fetchScript } from './sources/fetch-script';

export interface InterfaceServerOptions {
  readonly gate: LoopbackGate;
  readonly relay: Relay;
  /** Origins under which the app is opened to be recorded. */
  readonly origins: () => readonly string[];
  readonly targetOrigin: string;
  readonly control: ProxyControl;
  readonly phones: Phones;
  readonly lan: Lan;
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

/** Wrong secrets of one address. */
const WRONG_SECRETS: Rate = { burst: 60, perSecond: 2 };

const lanSchema = object({ address: string().max(60) }).noUnknown();

/** Answers a body that does not fit with what is wrong in it. */
const refuse: express.ErrorRequestHandler = (error, request, response, next) => {
  const isWrong = [ValidationError, BadStepsError, NoLanError].some((wrong) => error instanceof wrong);
  const { status = 500, message } = error as Error & { status?: number };
  if (response.headersSent) next(error);
  else if (isWrong) response.status(400).type('text').send(message);
  else if (status < 500) response.status(status).type('text').send('This cannot be taken.');
  else {
    log(`${request.method} ${request.path}: ${message}`);
    response.status(500).type('text').send('Something went wrong here.');
  }
};

/** The origin of the tool itself: its interface, and the connection on which it follows targets. */
export class InterfaceServer {
  readonly http: Server;
  readonly #sockets: GuardedSockets;
  readonly #again: Again;

  constructor(private readonly options: InterfaceServerOptions) {
    this.#sockets = new GuardedSockets(options.gate, (socket) => options.relay.addInterface(socket));
    this.#again = new Again(options.targetOrigin);
    const app = this.#app();
    this.http = patientServer((request, response) => app(request, response));
    this.http.on('upgrade', (request, socket, head) => {
      if (request.url === INTERFACE_SOCKET_PATH) this.#sockets.upgrade(request, socket, head);
      else socket.destroy();
    });
  }

  close(): void {
    this.#again.stop();
    this.#sockets.close();
    this.http.close();
    this.http.closeAllConnections();
  }

  #app(): express.Express {
    const app = express();
    const wrong = new Allowances(WRONG_SECRETS);
    const { gate, control, lan } = this.options;
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
    app.get('/api/script', async (request, response) => {
      const url = typeof request.query['url'] === 'string' ? request.query['url'] : '';
      const { origins, targetOrigin } = this.options;
      const rewritten = control.rewriter.textAt(url);
      const from = origins().find((origin) => url.startsWith(`${origin}/`)) ?? '';
      response.json(rewritten ?? (await fetchScript(url, { proxyOrigin: from, targetOrigin })));
    });
    app.get('/api/left-alone', (_request, response) => void response.json(control.rewriter.leftAlone));
    app.get('/api/settings', (_request, response) => void response.json(control.settings));
    app.put('/api/settings', express.json({ limit: '20kb' }), (request, response) => {
      control.settings = settingsSchema.validateSync(request.body, { strict: true });
      response.json(control.settings);
    });
    app.post('/api/phone', express.json({ limit: '20kb' }), (request, response) => {
      this.options.phones.start(phoneSchema.validateSync(request.body, { strict: true }));
      response.status(204).end();
    });
    app.get('/api/lan', (_request, response) => void response.json(lan.state));
    app.post('/api/lan', express.json({ limit: '2kb' }), async (request, response) => {
      const { address } = lanSchema.validateSync(request.body, { strict: true });
      await lan.open(address);
      response.json(lan.state);
    });
    app.delete('/api/lan', (_request, response) => {
      lan.close();
      response.json(lan.state);
    });
    app.delete('/api/lan/devices/:id', (request, response) => {
      lan.devices.turnAway(request.params.id);
      response.json(lan.state);
    });
    app.get('/api/again', (_request, response) => void response.json(browsersHere()));
    app.post('/api/again', express.json({ limit: '2mb' }), async (request, response) => {
      const wish = againSchema.validateSync(request.body, { strict: true });
      if (this.#again.isRunning) response.status(409).type('text').send('Something is done again already.');
      else await this.#again.run(wish, response);
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
    app.use(refuse);
    return app;
  }
}
