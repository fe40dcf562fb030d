import { get } from 'node:http';
import type { FoundApp } from '@nettle-patch/core';

/** Ports at which dev servers usually are when nobody has said another. */
export const USUAL_PORTS = [3000, 3001, 4200, 4321, 5000, 5173, 5174, 8000, 8080, 8081, 8888, 9000, 1234];
const HOSTS = ['127.0.0.1', '[::1]'];
const PATIENCE_MS = 700;

function titleOf(html: string): string {
  const found = /<title[^>]*>([^<]{1,200})/i.exec(html);
  return found === null ? '' : found[1]!.trim().replaceAll(/\s+/g, ' ');
}

/** The page at an address; undefined where none is, or only something that is no page. */
function pageAt(host: string, port: number): Promise<string | undefined> {
  return new Promise((resolve) => {
    const end = (text?: string) => {
      request.destroy();
      resolve(text);
    };
    const headers = { host: `localhost:${port}`, accept: 'text/html' };
    const request = get(`http://${host}:${port}/`, { headers, timeout: PATIENCE_MS }, (answer) => {
      if (!/^text\/html\b/i.test(answer.headers['content-type'] ?? '')) return end();
      let text = '';
      answer.setEncoding('utf8');
      answer.on('data', (piece: string) => {
        text += piece;
        if (text.length > 64_000) end(text);
      });
      answer.once('end', () => end(text));
      answer.once('error', () => end());
    });
    request.once('timeout', () => end());
    request.once('error', () => end());
    setTimeout(end, PATIENCE_MS * 2).unref();
  });
}

/** Looks which apps answer on this computer. */
export async function findApps(ports: readonly number[] = USUAL_PORTS): Promise<FoundApp[]> {
  const looks = ports.map(async (port) => {
    const pages = await Promise.all(HOSTS.map((host) => pageAt(host, port)));
    const page = pages.find((text) => text !== undefined);
    return page === undefined ? [] : [{ origin: `http://localhost:${port}`, title: titleOf(page) }];
  });
  return (await Promise.all(looks)).flat();
}
