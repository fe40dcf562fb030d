import type { IncomingMessage } from 'node:http';
import { originsOfApp } from '../sources/origins-of-app';
import { adaptPolicy, type RecorderPermit } from './content-security-policy';

/** Headers that concern one connection only (RFC 9110, section 7.6.1). */
const HOP_BY_HOP = new Set([
  'connection',
  'keep-alive',
  'proxy-authenticate',
  'proxy-connection',
  'te',
  'trailer',
  'transfer-encoding',
  'upgrade',
]);

/** Headers that speak of the text's exact bytes, which no longer hold once the recorder is in it. */
const OF_EXACT_BYTES = new Set([
  'content-length',
  'content-encoding',
  'content-md5',
  'digest',
  'accept-ranges',
]);

/** Headers that let an answer be used again, which one that was rewritten for this run must not be. */
const OF_CACHES = new Set([
  'cache-control',
  'etag',
  'last-modified',
  'expires',
  'age',
  'sourcemap',
  'x-sourcemap',
]);

/** Headers that say for how long an answer may be used without asking. */
const OF_AGE = new Set(['cache-control', 'expires', 'age']);

const NO_STORE = /\bno-store\b/i;

/** Headers by which an answer that is kept is found to be the same still: a page holds what belongs to its load. */
const OF_VERSIONS = new Set(['etag', 'last-modified']);

const ISOLATING = new Set(['cross-origin-opener-policy', 'cross-origin-embedder-policy']);

export interface AnswerContext {
  readonly targetOrigin: string;
  readonly proxyOrigin: string;
  /** Given when the answer is HTML that gets the recorder. */
  readonly permit?: RecorderPermit;
  /** The encoding of the text, where the recorder in it hides the name of that from browsers. */
  readonly charset?: string;
  /** Whether the text is another one than the app sent. */
  readonly rewritten?: boolean;
  /**
   * Whether the browser is to ask again each time before it uses what it has kept: a script kept for good would come as
   * it was when the mode is changed.
   */
  readonly asksAgain?: boolean;
  /** The embedder policy that isolates the page (HTML, section 7.1.4), where it is to be isolated. */
  readonly embedderPolicy?: string;
}

function asksAgain({ permit, asksAgain: isAsked }: AnswerContext): boolean {
  return permit !== undefined || isAsked === true;
}

function rewriteLocation(value: string, context: AnswerContext): string {
  const { targetOrigin, proxyOrigin } = context;
  const own = originsOfApp(targetOrigin).find(
    (origin) => value === origin || value.startsWith(`${origin}/`) || value.startsWith(`${origin}?`),
  );
  return own === undefined ? value : proxyOrigin + value.slice(own.length);
}

/** A cookie for the app's own host must be for the proxy's host, which the browser talks to. */
function rewriteCookie(value: string, context: AnswerContext): string {
  const targetHost = new URL(context.targetOrigin).hostname;
  const proxyHost = new URL(context.proxyOrigin).hostname;
  if (targetHost === proxyHost) return value;
  return value.replace(/;\s*domain=[^;]*/i, '');
}

function rewrite(name: string, value: string, context: AnswerContext): string | undefined {
  const { permit } = context;
  if (HOP_BY_HOP.has(name) || name === 'strict-transport-security') return undefined;
  const changed = permit !== undefined || context.rewritten === true;
  if (changed && OF_EXACT_BYTES.has(name)) return undefined;
  if (context.rewritten && OF_CACHES.has(name)) return undefined;
  if (asksAgain(context) && OF_AGE.has(name) && !NO_STORE.test(value)) return undefined;
  if (permit !== undefined && OF_VERSIONS.has(name)) return undefined;
  if (context.embedderPolicy !== undefined && ISOLATING.has(name)) return undefined;
  if (name === 'content-type' && context.charset !== undefined) return `${value}; charset=${context.charset}`;
  if (name === 'location' || name === 'content-location') return rewriteLocation(value, context);
  if (name === 'set-cookie') return rewriteCookie(value, context);
  if (name === 'access-control-allow-origin' && value === context.targetOrigin) return context.proxyOrigin;
  if (permit !== undefined && name === 'content-security-policy') return adaptPolicy(value, permit);
  return value;
}

/**
 * The headers of an answer as the browser is to get them, in their order, each as name and value.
 * Documents that get the recorder also get the policy that lets it take samples (WICG JS Self-Profiling).
 */
export function answerHeaders(answer: IncomingMessage, context: AnswerContext): [string, string][] {
  const headers: [string, string][] = [];
  let documentPolicy = 'js-profiling';
  for (let at = 0; at + 1 < answer.rawHeaders.length; at += 2) {
    const name = answer.rawHeaders[at]!;
    const value = answer.rawHeaders[at + 1]!;
    if (context.permit !== undefined && name.toLowerCase() === 'document-policy') {
      documentPolicy = /\bjs-profiling\b/.test(value) ? value : `${value}, js-profiling`;
      continue;
    }
    const written = rewrite(name.toLowerCase(), value, context);
    if (written !== undefined) headers.push([name, written]);
  }
  if (context.permit !== undefined) headers.push(['Document-Policy', documentPolicy]);
  if (context.rewritten) headers.push(['Cache-Control', 'no-store']);
  else if (asksAgain(context) && !NO_STORE.test(answer.headers['cache-control'] ?? ''))
    headers.push(['Cache-Control', 'no-cache']);
  if (context.embedderPolicy !== undefined) {
    headers.push(['Cross-Origin-Embedder-Policy', context.embedderPolicy]);
    headers.push(['Cross-Origin-Opener-Policy', 'same-origin']);
  }
  return headers;
}
