import { createServer, get, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { DEFAULT_SETTINGS } from '@nettle-patch/core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { RecordingProxy } from './proxy';
import { ProxyControl } from './proxy-control';

const MB = 2 ** 20;
/** As a script that was written to be unfolded: some hundred kilobytes as it is sent. */
const LENGTH = 130 * MB;
const SCRIPT = Buffer.alloc(LENGTH, ' ');
SCRIPT.write('globalThis.ran = [1].map(String);');

let app: Server;
let proxied: Server;
const control = new ProxyControl({ ...DEFAULT_SETTINGS, mode: 'exact' });
const portOf = (server: Server) => (server.address() as AddressInfo).port;

beforeAll(async () => {
  const sent = gzipSync(SCRIPT);
  app = createServer((_request, response) =>
    response.writeHead(200, { 'content-type': 'text/javascript', 'content-encoding': 'gzip' }).end(sent),
  );
  await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
  const proxy = new RecordingProxy({
    targetOrigin: `http://127.0.0.1:${portOf(app)}`,
    gate: { origin: 'http://localhost:4781', secretFor: () => 'secret' },
    control,
  });
  proxied = createServer((request, response) => proxy.handle(request, response));
  await new Promise<void>((resolve) => proxied.listen(0, '127.0.0.1', resolve));
});

afterAll(() => {
  control.rewriter.close();
  proxied.close();
  app.close();
});

it('a script beyond its bound passes as it is, piece by piece, and is named', async () => {
  let length = 0;
  const answer = await new Promise<IncomingMessage>((resolve) =>
    get({ port: portOf(proxied), path: '/large.js', headers: { 'sec-fetch-dest': 'script' } }, resolve),
  );
  for await (const piece of answer as AsyncIterable<Buffer>) length += piece.length;
  expect(length).toBe(LENGTH);
  expect(control.rewriter.uninstrumented).toMatchObject([
    { problem: expect.stringContaining('more than 64 MB') },
  ]);
});
