import express from 'express';
import type { ServedPart } from '../serve';
import { Replays, browsersHere, replaySchema } from './replay';

/** What the interface asks of scripted browsers: which there are, and to take steps in one. */
export function replaysPart(targetFor: (app: string | undefined) => string): ServedPart {
  const replays = new Replays(targetFor);
  const router = express.Router();
  router.get('/', (_request, response) => void response.json(browsersHere()));
  router.post('/', express.json({ limit: '2mb' }), async (request, response) => {
    const asked = replaySchema.validateSync(request.body, { strict: true });
    if (replays.isRunning) response.status(409).type('text').send('Something is done again already.');
    else await replays.run(asked, response);
  });
  return { path: 'replay', routes: router, stop: () => replays.stop() };
}
