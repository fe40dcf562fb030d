import { holdSockets } from './holder/hold-sockets';

const element = document.currentScript as HTMLScriptElement | null;
element?.remove();
if (element !== null) holdSockets(element.src);
