import { startWorker } from './worker/start';

startWorker();
