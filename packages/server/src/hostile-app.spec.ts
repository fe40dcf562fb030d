import { once } from 'node:events';
import { createServer as createTcpServer, connect, type AddressInfo, type Server } from 'node:net';
import { text } from 'node:stream/consumers';
import { RESERVED_PATH, TARGET_SOCKET_PATH } from '@nettle-patch/core';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { WebSocket } from 'ws';
import { serve, type Running } from './serve';
import { fetchScript } from './sources/fetch-script';

vi.mock('./assets');

/** What the app answers next, byte for byte. */
let answer: string;
/** The heads of the requests that came to it. */
let heads: string[];
let app: Server;
let running: Running;
const unhandled: unknown[] = [];
const note = (error: unknown) => unhandled.push(error);

beforeAll(async () => {
  process.on('uncaughtException', note);
  process.on('unhandledRejection', note);
  app = createTcpServer((socket) => {
    socket.on('error', () => socket.destroy());
    socket.once('data', (head) => {
      heads.push(String(head));
      socket.end(Buffer.from(answer, 'latin1'));
    });
  });
  await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
  const target = `http://127.0.0.1:${(app.address() as AddressInfo).port}`;
  running = await serve({ target, port: 0, proxyPort: 0, settings: { mode: 'exact' } });
});

afterAll(() => {
  process.off('uncaughtException', note);
  process.off('unhandledRejection', note);
  running.close();
  app.close();
});

beforeEach(() => {
  heads = [];
  unhandled.length = 0;
  answer = 'HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok';
});

const host = () => `localhost:${new URL(running.proxyOrigin).port}`;

/** Sends a request as it is. @returns the whole answer */
async function ask(head: string): Promise<string> {
  const socket = connect(Number(new URL(running.proxyOrigin).port), '127.0.0.1');
  socket.on('error', () => socket.destroy());
  socket.write(`${head}\r\nHost: ${host()}\r\nConnection: close\r\n\r\n`);
  return text(socket).catch(() => '');
}

async function expectAlive(): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, 30));
  expect(unhandled).toEqual([]);
  answer = 'HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok';
  expect(await ask('GET / HTTP/1.1')).toContain('ok');
}

describe('what an app answers', () => {
  it.each([
    ['a status that is none', 'HTTP/1.1 099 Odd\r\nContent-Length: 2\r\n\r\nok'],
    ['a status far too high', 'HTTP/1.1 999 Odd\r\nContent-Length: 2\r\n\r\nok'],
    ['a reason with a control character', 'HTTP/1.1 200 O\u0001K\r\nContent-Length: 2\r\n\r\nok'],
    ['a reason in another script', 'HTTP/1.1 200 \u00c5\u00e9\r\nContent-Length: 2\r\n\r\nok'],
    [
      'a header with a control character',
      'HTTP/1.1 200 OK\r\nX-Odd: a\u0001b\r\nContent-Length: 2\r\n\r\nok',
    ],
    ['a redirect to nowhere', 'HTTP/1.1 302 Found\r\nLocation: http://[\r\nContent-Length: 0\r\n\r\n'],
    [
      'a script with a map at no address',
      'HTTP/1.1 200 OK\r\nContent-Type: text/javascript\r\nSourceMap: http://[\r\nContent-Length: 2\r\n\r\nok',
    ],
    [
      'a switch of protocols nobody asked for',
      'HTTP/1.1 101 Switching Protocols\r\nUpgrade: websocket\r\nConnection: Upgrade\r\n\r\n',
    ],
    ['nonsense', 'ahoy there\r\n\r\n'],
    [
      'a coding that its bytes are not in',
      'HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Encoding: gzip\r\nContent-Length: 5\r\n\r\nhello',
    ],
    [
      'a policy of odd characters',
      'HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Security-Policy: \u0080;;script-src\r\nContent-Length: 2\r\n\r\nok',
    ],
  ])('ends nothing: %s', async (_name, bytes) => {
    for (const destination of ['document', 'script', 'worker']) {
      answer = bytes;
      await ask(`GET /desk.js HTTP/1.1\r\nSec-Fetch-Dest: ${destination}\r\nAccept: */*`);
    }
    answer = bytes;
    await ask(
      'GET /live HTTP/1.1\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==',
    );
    await expectAlive();
  });
});

describe('an address', () => {
  it.each([
    '//',
    '///',
    '//evil.example/desk.js',
    '/\\evil.example/desk.js',
    '//evil.example:99999/',
    '/%',
    '/?%',
    '*',
    'http://evil.example/',
  ])('that is odd goes to the app and nowhere else, and ends nothing: %s', async (path) => {
    for (const destination of ['document', 'script', 'worker'])
      await ask(`GET ${path} HTTP/1.1\r\nSec-Fetch-Dest: ${destination}`);
    for (const head of heads) expect(head).toMatch(/^GET (?!http)[/*]/);
    for (const method of ['POST', 'GET'])
      await ask(
        `${method} ${path} HTTP/1.1\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==`,
      );
    await expectAlive();
  });

  it('of a script or a map that begins with two slashes is one of the app', async () => {
    const targetOrigin = `http://127.0.0.1:${(app.address() as AddressInfo).port}`;
    const origins = { proxyOrigin: running.proxyOrigin, targetOrigin };
    for (const path of ['//evil.example/desk.js', '/\\evil.example/desk.js', '/%5C/evil.example/desk.js']) {
      answer = `HTTP/1.1 200 OK\r\nContent-Length: 50\r\n\r\nf()\n//# sourceMappingURL=/\\evil.example/desk.js.map`;
      heads = [];
      const { problem } = await fetchScript(`${running.proxyOrigin}${path}`, origins);
      expect(heads).toHaveLength(1);
      expect(heads[0]).toContain('evil.example/desk.js HTTP/1.1');
      expect(problem).toContain('on another origin');
    }
  });
});

describe('what a page says', () => {
  async function join(): Promise<WebSocket> {
    const secret = await (await fetch(`${running.proxyOrigin}${RESERVED_PATH}join`)).text();
    const socket = new WebSocket(`ws://${host()}${TARGET_SOCKET_PATH}`, ['nettle-patch', secret]);
    socket.on('error', () => undefined);
    await once(socket, 'open');
    return socket;
  }

  it.each([
    ['no JSON', 'ahoy'],
    ['names in another script', JSON.stringify({ type: 'hello', target: { ['\u{1f6a2}'.repeat(90)]: 1 } })],
    ['values in another script', JSON.stringify({ type: '\u{1f6a2}'.repeat(90) })],
    ['a batch of odd names', `${JSON.stringify({ type: 'rows', targetId: '\u00e5'.repeat(300) })}\n`],
    ['nothing', ''],
    ['null', 'null'],
  ])('closes its connection and ends nothing: %s', async (_name, frame) => {
    const socket = await join();
    socket.send(frame);
    const [code] = (await once(socket, 'close')) as [number];
    expect([4400, 4429]).toContain(code);
    await expectAlive();
  });

  it('in frames of bytes, fragments and odd close codes ends nothing', async () => {
    for (const act of [
      (socket: WebSocket) => socket.send(Buffer.from([0xff, 0xfe, 0x00])),
      (socket: WebSocket) => socket.close(4999, '\u00e5'.repeat(60)),
      (socket: WebSocket) => socket.terminate(),
      (socket: WebSocket) =>
        (socket as unknown as { _socket: { write(bytes: Buffer): void } })._socket.write(
          Buffer.from([0xff, 0xff, 0xff]),
        ),
    ]) {
      const socket = await join();
      act(socket);
      if (socket.readyState !== WebSocket.CLOSED) await once(socket, 'close');
    }
    await expectAlive();
  });
});
