import { get as getPlainly, type IncomingMessage } from 'node:http';
import { get as getSecurely } from 'node:https';
import { pipeline } from 'node:stream';
import { inlineMap, type ScriptText } from '@nettle-patch/core';
import { READABLE_CODINGS, decompressor } from '../proxy/decompress';
import { textWithin } from '../proxy/text-within';
import { atOrigin } from './at-origin';
import { codeOfPage } from './code-of-page';

const MAX_TEXT = 64 * 1024 * 1024;
const TIME_LIMIT_MS = 20_000;
/** Where a script names its map: the last such comment counts (ECMA-426). */
const MAP_COMMENT = /^[ \t]*\/\/[#@]\s*sourceMappingURL=(\S+)[ \t]*$/gm;

class Unfetched extends Error {}

/** Pages may hold scripts; a page that says nothing of its type is known by how it begins. */
function isPage(type: string | null, text: string): boolean {
  return (
    /^\s*(text\/html|application\/xhtml\+xml)\b/i.test(type ?? '') ||
    /^\s*<(!|html\b|head\b|body\b)/i.test(text)
  );
}

/** Asks an app, which may have a certificate of its own. */
function answerOf(url: URL): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const headers = { 'accept-encoding': READABLE_CODINGS.join(', ') };
    const signal = AbortSignal.timeout(TIME_LIMIT_MS);
    const get = url.protocol === 'https:' ? getSecurely : getPlainly;
    get(url, { headers, signal, rejectUnauthorized: false }, resolve).once('error', reject);
  });
}

/** The body of an answer as text. @throws Unfetched where it is none, or is too large */
async function textOf(answer: IncomingMessage): Promise<string> {
  const { statusCode = 0, headers } = answer;
  if (statusCode < 200 || statusCode > 299) throw new Unfetched(`the server answered ${statusCode}`);
  const coding = headers['content-encoding'];
  const readable = decompressor(coding);
  if (readable === undefined)
    throw new Unfetched(`it is compressed as "${coding}", which cannot be read here`);
  pipeline(answer, readable, () => undefined);
  const read = await textWithin(readable, MAX_TEXT);
  if (!read.isWhole) throw new Unfetched('it is too large');
  return read.text;
}

async function fetchText(url: URL): Promise<{ text: string; mapHeader: string | null }> {
  const answer = await answerOf(url);
  try {
    const { headers } = answer;
    const text = await textOf(answer);
    if (isPage(headers['content-type'] ?? null, text)) return { text: codeOfPage(text), mapHeader: null };
    return { text, mapHeader: (headers['sourcemap'] ?? headers['x-sourcemap'] ?? null) as string | null };
  } finally {
    answer.destroy();
  }
}

function mapAddress(text: string, header: string | null): string | undefined {
  return header ?? [...text.matchAll(MAP_COMMENT)].at(-1)?.[1];
}

function reason(error: unknown): string {
  if (error instanceof Unfetched) return error.message;
  return (error as NodeJS.ErrnoException).code ?? (error as Error).message;
}

/** Where pages are opened, and where what they load really is. */
export interface Origins {
  readonly proxyOrigin: string;
  readonly targetOrigin: string;
}

/** The same address at the app behind the proxy. */
function behind(address: URL, { targetOrigin }: Origins): URL {
  return atOrigin(targetOrigin, address.pathname + address.search);
}

/**
 * Finds the source map of a script whose text is known.
 * @param url as the page loaded it
 * @param header value of the answer's `SourceMap` header
 */
export async function fetchMap(
  url: URL,
  text: string,
  header: string | null,
  origins: Origins,
): Promise<Pick<ScriptText, 'map' | 'mapUrl' | 'problem'>> {
  const named = mapAddress(text, header);
  if (named === undefined) return {};
  if (named.startsWith('data:')) return inlineMap(named, url.href);
  if (!URL.canParse(named, url.href)) return { problem: 'its source map is at no address' };
  const mapUrl = new URL(named, url);
  if (mapUrl.origin !== origins.proxyOrigin) return { problem: 'its source map is on another origin' };
  try {
    const { text: map } = await fetchText(behind(mapUrl, origins));
    return { map, mapUrl: mapUrl.href };
  } catch (error) {
    return { problem: `its source map could not be fetched: ${reason(error)}` };
  }
}

/**
 * Fetches a script's text and source map.
 * @param url as the page loaded it, from the proxy: only its scripts are fetched, straight from the app behind it
 */
export async function fetchScript(url: string, origins: Origins): Promise<ScriptText> {
  const proxied = URL.canParse(url) ? new URL(url) : undefined;
  if (proxied?.origin !== origins.proxyOrigin)
    return { url, problem: 'it comes from another origin than the app' };
  try {
    const { text, mapHeader } = await fetchText(behind(proxied, origins));
    return { url, text, ...(await fetchMap(proxied, text, mapHeader, origins)) };
  } catch (error) {
    return { url, problem: `its text could not be fetched: ${reason(error)}` };
  }
}
