import express from 'express';
import { object, string } from 'yup';
import type { Lan } from '../lan/lan';
import { findApps } from '../start/find-apps';
import type { Apps } from './apps';
import { targetOriginOf } from './target-origin';

const addressSchema = object({ address: string().trim().min(1).max(2000).required() }).noUnknown();

/** What the interface asks of the apps that are served: which others answer here, and to serve one or another. */
export function appRoutes({ apps, lan }: { readonly apps: Apps; readonly lan: Lan }): express.Router {
  const router = express.Router();
  router.get('/found', async (_request, response) => {
    const found = await findApps();
    response.json(found.filter(({ origin }) => apps.find(origin) === undefined));
  });
  router.post('/', express.json({ limit: '4kb' }), async (request, response) => {
    const { address } = addressSchema.validateSync(request.body, { strict: true });
    response.json(await apps.add(targetOriginOf(address)));
  });
  router.delete('/', express.json({ limit: '4kb' }), (request, response) => {
    const { address } = addressSchema.validateSync(request.body, { strict: true });
    const app = apps.find(address);
    if (app === undefined) {
      response.status(404).type('text').send('Nothing stands in front of that app.');
      return;
    }
    lan.closeFor(app.target);
    apps.remove(app.target);
    response.status(204).end();
  });
  return router;
}
