import type { IncomingMessage } from 'node:http';

/** What a browser asks scripts for that are run in a page or a worker of it (W3C Fetch Metadata). */
const SCRIPT_DESTINATIONS = new Set(['script', 'worker', 'sharedworker', 'serviceworker']);
const WORKER_DESTINATIONS = new Set(['worker', 'sharedworker', 'serviceworker']);

/** Media types of JavaScript (RFC 9239, and those it makes obsolete). */
const SCRIPT_TYPE =
  /^\s*(?:text|application)\/(?:x-)?(?:javascript|ecmascript|jscript|livescript)(?:1\.\d)?\s*(?:;|$)/i;

/** What the `type` of an element is whose text is run (HTML, section 4.12.1). */
const ELEMENT_TYPE = /^$|^module$|^(?:text|application)\/(?:x-)?(?:java|ecma)script$/i;

/** Whether the text of a `script` element of a type is run, and is no data. */
export function isRunType(type: string): boolean {
  return ELEMENT_TYPE.test(type.trim());
}

/** Whether a request is for a script that the page or a worker of it will run. */
export function asksForScript(request: IncomingMessage): boolean {
  const destination = request.headers['sec-fetch-dest'];
  if (typeof destination === 'string') return SCRIPT_DESTINATIONS.has(destination);
  return hasScriptName(request);
}

function hasScriptName({ url = '' }: IncomingMessage): boolean {
  return /\.[cm]?js(?:$|\?)/.test(url);
}

/** Whether a request that names no use may be for a script, as one that a service worker keeps for its pages. */
export function mayAskForScript(request: IncomingMessage): boolean {
  return request.headers['sec-fetch-dest'] === 'empty' && hasScriptName(request);
}

/** Whether a request is for the script that a worker of any kind begins with. */
export function asksForWorker(request: IncomingMessage): boolean {
  return WORKER_DESTINATIONS.has(String(request.headers['sec-fetch-dest']));
}

/** Whether an answer is a whole script in an encoding that can be read. */
export function isScript(answer: IncomingMessage): boolean {
  const type = answer.headers['content-type'] ?? '';
  const utf8 = !/charset\s*=/i.test(type) || /charset\s*=\s*"?utf-?8/i.test(type);
  return answer.statusCode === 200 && SCRIPT_TYPE.test(type) && utf8;
}
