import { once } from 'node:events';
import { createServer, get, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { buffer } from 'node:stream/consumers';
import { DEFAULT_SETTINGS } from '@nettle-patch/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { tellingBegin } from './page-encoding';
import { RecordingProxy } from './proxy';
import { ProxyControl } from './proxy-control';

const PAGE = '<!doctype html><html><head><title>B\u00e5t</title></head><body>quay</body></html>';

let page: { bytes: Buffer; type: string };
let app: Server;
let front: Server;
const portOf = (server: Server) => (server.address() as AddressInfo).port;

beforeAll(async () => {
  app = createServer((_request, response) => {
    response.setHeader('content-type', page.type);
    response.write(page.bytes.subarray(0, 2));
    setTimeout(() => response.end(page.bytes.subarray(2)), 20);
  });
  await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
  const proxy = new RecordingProxy({
    targetOrigin: `http://127.0.0.1:${portOf(app)}`,
    gate: { origin: 'http://localhost:4781', secretFor: () => 'secret' },
    control: new ProxyControl({ ...DEFAULT_SETTINGS }),
  });
  front = createServer((request, response) => proxy.handle(request, response));
  await new Promise<void>((resolve) => front.listen(0, '127.0.0.1', resolve));
});

afterAll(() => {
  front.close();
  app.close();
});

function opened(bytes: Buffer, type = 'text/html'): Promise<IncomingMessage> {
  page = { bytes, type };
  const headers = { 'sec-fetch-dest': 'document' };
  return new Promise((resolve) => get({ port: portOf(front), path: '/', headers }, resolve));
}

const withoutRecorder = (text: string) => text.replace(/<script .*?<\/script>/g, '');

describe('how a page is decoded does not change', () => {
  it('where it begins with a byte order mark', async () => {
    const body = (await buffer(await opened(Buffer.from(`\ufeff${PAGE}`)))).toString();
    expect(body.startsWith('\ufeff<!doctype html><html><head><script ')).toBe(true);
    expect(withoutRecorder(body)).toBe(`\ufeff${PAGE}`);
  });

  it.each(['utf16le', 'utf16be'])('where it is written in %s', async (order) => {
    const bytes = Buffer.from(`\ufeff${PAGE}`, 'utf16le');
    if (order === 'utf16be') bytes.swap16();
    expect((await buffer(await opened(bytes))).equals(bytes)).toBe(true);
  });

  it('where it names its encoding so late that the recorder would push that out of sight', async () => {
    const late = `<!doctype html><head><!-- <meta charset=koi8-r> -->${' '.repeat(850)}<meta http-equiv="Content-Type" content="text/html; charset=windows-1252"><title>B\u00e5t</title>`;
    const answer = await opened(Buffer.from(late, 'latin1'));
    expect(answer.headers['content-type']).toBe('text/html; charset=windows-1252');
    expect(withoutRecorder((await buffer(answer)).toString('latin1'))).toBe(late);
  });

  it.each([
    ['says it early', '<!doctype html><meta charset="windows-1252"><p>quay', 'text/html'],
    [
      'says it in its header',
      `<!doctype html>${' '.repeat(950)}<meta charset="koi8-r">`,
      'text/html; charset=utf-8',
    ],
    ['says nothing', '<p>quay', 'text/html'],
    ['holds nothing', '', 'text/html'],
  ])('and its header is left alone where it %s', async (_what, text, type) => {
    expect((await opened(Buffer.from(text), type)).headers['content-type']).toBe(type);
  });
});

it('what goes wrong while a page begins ends that page, and nothing else', async () => {
  const begin = tellingBegin(() => {
    throw new Error('no begin');
  });
  const failed = once(begin, 'error');
  begin.end('<p>quay');
  expect((await failed)[0]).toEqual(new Error('no begin'));
});
