import type { IncomingMessage } from 'node:http';

const DOCUMENT_DESTINATIONS = new Set(['document', 'iframe', 'frame', 'object', 'embed', 'fencedframe']);

/** What a browser wants an answer for (W3C Fetch Metadata). */
export type Destination = 'document' | 'unknown' | 'other';

/**
 * A script, style or picture never gets the recorder; a fetch may be a service worker's for a document, and an
 * old browser says nothing, so for these the text itself decides.
 */
export function destinationOf(request: IncomingMessage): Destination {
  const destination = request.headers['sec-fetch-dest'];
  if (typeof destination !== 'string' || destination === 'empty') return 'unknown';
  return DOCUMENT_DESTINATIONS.has(destination) ? 'document' : 'other';
}

/** Whether a request is for what a frame of a page shows. */
export function isForFrame(request: IncomingMessage): boolean {
  return /frame|object|embed/.test(String(request.headers['sec-fetch-dest']));
}

/** Whether an answer is HTML with a body in an encoding that agrees with ASCII. */
export function isHtml(answer: IncomingMessage, method: string | undefined): boolean {
  const type = answer.headers['content-type'] ?? '';
  const status = answer.statusCode ?? 0;
  const hasBody = method !== 'HEAD' && status >= 200 && status !== 204 && status !== 304 && status !== 206;
  return (
    hasBody &&
    /^\s*(text\/html|application\/xhtml\+xml)\b/i.test(type) &&
    !/charset\s*=\s*"?utf-?(16|32)/i.test(type)
  );
}
