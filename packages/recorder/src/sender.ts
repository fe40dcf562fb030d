import { startHolder } from './holder/held-sockets';
import { startSender } from './sender/start';

// The same file runs as the worker of a page and as one that pages share.
if ('onconnect' in globalThis) startHolder();
else startSender();
