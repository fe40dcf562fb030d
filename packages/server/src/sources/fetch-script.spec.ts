import { createServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CERTIFICATE } from '../testing/certificate';
import { fetchScript } from './fetch-script';

const PROXY = 'http://localhost:4781';
const MAP = '{"version":3,"sources":["trim.ts"],"names":[],"mappings":""}';
const inline = `data:application/json;base64,${Buffer.from(MAP).toString('base64')}`;

const FILES: Record<string, { text: string; headers?: Record<string, string> }> = {
  '/plain.js': { text: 'f()' },
  '/named.js': { text: 'f()\n//# sourceMappingURL=maps/named.js.map' },
  '/maps/named.js.map': { text: MAP },
  '/header.js': { text: 'f()', headers: { sourcemap: '/maps/named.js.map' } },
  '/inline.js': { text: `f()\n//# sourceMappingURL=${inline}\n` },
  '/twice.js': { text: '//# sourceMappingURL=wrong.map\nf()\n//# sourceMappingURL=maps/named.js.map' },
  '/lost.js': { text: 'f()\n//# sourceMappingURL=gone.map' },
  '/foreign.js': { text: 'f()\n//# sourceMappingURL=http://tides.example/x.map' },
};

let app: Server;
let origin = '';

beforeAll(async () => {
  app = createServer((request, response) => {
    const file = FILES[request.url ?? ''];
    if (file === undefined) response.writeHead(404).end();
    else response.writeHead(200, file.headers).end(file.text);
  });
  await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
  origin = `http://localhost:${(app.address() as AddressInfo).port}`;
});

afterAll(() => app.close());

const fetched = (path: string) =>
  fetchScript(`${PROXY}${path}`, { proxyOrigin: PROXY, targetOrigin: origin });

it('finds the source map by comment, by header, inline, and by the last of several comments', async () => {
  for (const path of ['/named.js', '/header.js', '/inline.js', '/twice.js']) {
    expect(await fetched(path), path).toMatchObject({ text: FILES[path]!.text, map: MAP });
  }
  expect(await fetched('/named.js')).toMatchObject({ mapUrl: `${PROXY}/maps/named.js.map` });
  expect(await fetched('/plain.js')).toEqual({ url: `${PROXY}/plain.js`, text: 'f()' });
});

it('says why a text or a map is not there', async () => {
  expect((await fetched('/gone.js')).problem).toBe('its text could not be fetched: the server answered 404');
  expect((await fetched('/lost.js')).problem).toBe(
    'its source map could not be fetched: the server answered 404',
  );
  expect((await fetched('/foreign.js')).problem).toBe('its source map is on another origin');
  const gone = createServer();
  await new Promise<void>((resolve) => gone.listen(0, '127.0.0.1', resolve));
  const { port } = gone.address() as AddressInfo;
  await new Promise((resolve) => gone.close(resolve));
  const { problem } = await fetchScript(`${PROXY}/plain.js`, {
    proxyOrigin: PROXY,
    targetOrigin: `http://127.0.0.1:${port}`,
  });
  expect(problem).toBe('its text could not be fetched: ECONNREFUSED');
});

describe('an app with a certificate of its own', () => {
  let secure: Server;
  beforeAll(async () => {
    secure = createSecureServer(CERTIFICATE, (request, response) => {
      const { text } = FILES[request.url ?? ''] ?? { text: '' };
      response.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync(text));
    });
    await new Promise<void>((resolve) => secure.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => secure.close());

  it('gives its scripts and their maps', async () => {
    const targetOrigin = `https://localhost:${(secure.address() as AddressInfo).port}`;
    const found = await fetchScript(`${PROXY}/named.js`, { proxyOrigin: PROXY, targetOrigin });
    expect(found).toMatchObject({ text: FILES['/named.js']!.text, map: MAP });
  });
});

it('is not fetched beyond its bound, however small it comes', async () => {
  const vast = gzipSync(Buffer.alloc(70 * 2 ** 20, ' '));
  const server = createServer((_request, response) =>
    response.writeHead(200, { 'content-encoding': 'gzip' }).end(vast),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const targetOrigin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const { problem } = await fetchScript(`${PROXY}/vast.js`, { proxyOrigin: PROXY, targetOrigin });
  expect(problem).toBe('its text could not be fetched: it is too large');
  server.close();
});
