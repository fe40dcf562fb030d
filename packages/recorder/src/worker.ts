import { startWorker } from './worker/start';

/** The constant CLOSER_PLACE around this file, where a function is looked at closer. */
declare const __np_c: string | undefined;

startWorker(typeof __np_c === 'string' ? __np_c : '');
