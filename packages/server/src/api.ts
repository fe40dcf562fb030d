import { BadStepsError, BadTrialError, settingsSchema, validationWords } from '@nettle-patch/core';
import express from 'express';
import { ValidationError, object, string } from 'yup';
import { NoLanError, type Lan } from './lan/lan';
import { log } from './log';
import { phoneSchema, type Phones } from './phone/phones';
import { appRoutes } from './apps/app-routes';
import { NoAppError, TooManyAppsError, type Apps } from './apps/apps';
import { BadAddressError } from './apps/target-origin';
import { BadArgumentError } from './drive/arguments';
import type { ProxyControl } from './proxy/proxy-control';
import { fetchScript } from './sources/fetch-script';

export interface ApiOptions {
  readonly apps: Apps;
  readonly control: ProxyControl;
  readonly phones: Phones;
  readonly lan: Lan;
}

/** Of no app that is served: nothing is fetched from there. */
const NO_ORIGINS = { proxyOrigin: '', targetOrigin: '' };

const lanSchema = object({ address: string().max(60), app: string().max(2000) }).noUnknown();

const WRONG = [
  ValidationError,
  BadStepsError,
  BadTrialError,
  BadArgumentError,
  NoLanError,
  NoAppError,
  TooManyAppsError,
  BadAddressError,
];

/** Answers what cannot be taken with what is wrong in it. */
export const refuse: express.ErrorRequestHandler = (error, request, response, next) => {
  const isWrong = WRONG.some((wrong) => error instanceof wrong);
  const { status = 500, message } = error as Error & { status?: number };
  if (response.headersSent) next(error);
  else if (isWrong)
    response
      .status(400)
      .type('text')
      .send(error instanceof ValidationError ? validationWords(error) : message);
  else if (status < 500) response.status(status).type('text').send('This cannot be taken.');
  else {
    log(`${request.method} ${request.path}: ${message}`);
    response.status(500).type('text').send('Something went wrong here.');
  }
};

/** What the interface asks of the server. Whoever gets here has shown the secret. */
export function apiRoutes(options: ApiOptions): express.Router {
  const { apps, control, phones, lan } = options;
  const router = express.Router();
  router.get('/script', async (request, response) => {
    const url = typeof request.query['url'] === 'string' ? request.query['url'] : '';
    const rewritten = await control.rewriter.textAt(url);
    const origins = lan.originsFor(url) ?? apps.originsFor(url) ?? NO_ORIGINS;
    response.json(rewritten ?? { ...(await fetchScript(control.wholeAddress(url), origins)), url });
  });
  router.get('/uninstrumented', (_request, response) => void response.json(control.rewriter.uninstrumented));
  router.get('/settings', (_request, response) => void response.json(control.settings));
  router.put('/settings', express.json({ limit: '20kb' }), (request, response) => {
    const changed = settingsSchema.validateSync(request.body, { strict: true });
    control.settings = { ...control.settings, ...changed };
    response.json(control.settings);
  });
  router.post('/phone', express.json({ limit: '20kb' }), (request, response) => {
    phones.start(phoneSchema.validateSync(request.body, { strict: true }));
    response.status(204).end();
  });
  router.use('/apps', appRoutes(options));
  router.get('/lan', (_request, response) => void response.json(lan.state));
  router.post('/lan', express.json({ limit: '2kb' }), async (request, response) => {
    const { address, app } = lanSchema.validateSync(request.body, { strict: true });
    await lan.open(address, app === undefined ? undefined : apps.targetFor(app));
    response.json(lan.state);
  });
  router.delete('/lan', (_request, response) => {
    lan.close();
    response.json(lan.state);
  });
  router.delete('/lan/devices/:id', (request, response) => {
    lan.devices.revoke(request.params.id);
    response.json(lan.state);
  });
  router.delete('/phone', (_request, response) => {
    phones.stop();
    response.status(204).end();
  });
  return router;
}
