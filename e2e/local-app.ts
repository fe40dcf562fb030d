import { createServer, type RequestListener } from 'node:http';
import { listening } from '../scripts/lib/listening.mjs';

/** An app to be recorded, on a free port of this computer. */
export type LocalApp = Awaited<ReturnType<typeof listening>>;

/** Serves an app until it is closed. */
export const localApp = (answer: RequestListener): Promise<LocalApp> => listening(createServer(answer));
