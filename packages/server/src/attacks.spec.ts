import { EventEmitter, once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import {
  FILE_PATH,
  INTERFACE_SOCKET_PATH,
  PAIR_PATH,
  RESERVED_PATH,
  TARGET_SOCKET_PATH,
  writeBatch,
} from '@nettle-patch/core';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { WebSocket, WebSocketServer } from 'ws';
import { keepAlive } from './limits/heartbeat';
import { serverWithTimeouts } from './limits/server-with-timeouts';
import { Relay } from './relay/relay';
import { serve, type Running } from './serve';

vi.mock('./assets');

/** Stands for the address others in the room use. */
const ROOM = '127.0.0.2';
let app: Server;
let running: Running;
let secret = '';

beforeAll(async () => {
  app = createServer((_request, response) => response.end('app'));
  await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
  const target = `localhost:${(app.address() as AddressInfo).port}`;
  running = await serve({ target, port: 0, proxyPort: 0, lan: ROOM });
  secret = await (await fetch(`${running.proxyOrigin}${RESERVED_PATH}join`)).text();
});

afterAll(() => {
  running.close();
  app.close();
});

/** Sends bytes as they are. @returns all that came back until the server or this hung up */
async function raw(origin: string, bytes: string, hangUpAfterMs?: number): Promise<string> {
  const { hostname, port } = new URL(origin);
  const socket = connect(Number(port), hostname === 'localhost' ? '127.0.0.1' : hostname);
  socket.on('error', () => socket.destroy());
  socket.write(bytes);
  if (hangUpAfterMs !== undefined) setTimeout(() => socket.resetAndDestroy(), hangUpAfterMs);
  return text(socket).catch(() => '');
}

const isUp = async () => (await fetch(`${running.proxyOrigin}/`)).status === 200;

function join(given: string, origin = running.proxyOrigin): { socket: WebSocket; closed: Promise<number> } {
  const url = origin.replace('http', 'ws') + TARGET_SOCKET_PATH;
  const socket = new WebSocket(url, ['nettle-patch', given]);
  const closed = new Promise<number>((resolve) => {
    socket.on('close', resolve);
    socket.on('unexpected-response', (_request, answer) => resolve(answer.statusCode ?? -1));
    socket.on('error', () => undefined);
  });
  return { socket, closed };
}

async function joined(id: string, given = secret, origin = running.proxyOrigin) {
  const one = join(given, origin);
  await once(one.socket, 'open');
  one.socket.send(hello(id));
  await vi.waitUntil(() => one.socket.readyState === WebSocket.OPEN);
  return one;
}

const hello = (id: string) =>
  JSON.stringify({
    type: 'hello',
    target: {
      id,
      title: 'Desk',
      url: 'app://desk',
      engine: 'Deckhand 3',
      device: 'phone',
      available: [],
      missing: [],
      visible: true,
      recording: null,
    },
  });

const rowsOf = (targetId: string) =>
  writeBatch(
    { type: 'rows', targetId, recordingId: 'friday', sequence: 0, last: false },
    '{"kind":"pause"}\n',
  );

const postHead = (given: string, length: number) =>
  `POST ${RESERVED_PATH}rows?secret=${given} HTTP/1.1\r\nHost: localhost:${new URL(running.proxyOrigin).port}\r\nContent-Length: ${length}\r\n\r\n`;

describe('the server under attack', () => {
  it('outlives clients that break off in the middle of a body, and in the middle of joining', async () => {
    const port = new URL(running.proxyOrigin).port;
    const upgrade = (host: string) =>
      `GET ${TARGET_SOCKET_PATH} HTTP/1.1\r\nHost: ${host}:${port}\r\nUpgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\n\r\n`;
    await Promise.all([
      raw(running.proxyOrigin, `${postHead(secret, 5000)}half of it`, 60),
      raw(running.proxyOrigin, postHead(secret, 5000), 0),
      raw(running.proxyOrigin, upgrade('tides.example'), 0),
      raw(running.proxyOrigin, upgrade('localhost'), 0),
      raw(running.interfaceOrigin, upgrade('localhost'), 0),
    ]);
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await isUp()).toBe(true);
  });

  it('answers nonsense with what is wrong, and goes on', async () => {
    expect(await raw(running.proxyOrigin, 'ahoy there\r\n\r\n')).toContain('400 Bad Request');
    const huge = `GET / HTTP/1.1\r\nHost: localhost\r\nX: ${'x'.repeat(40_000)}\r\n\r\n`;
    expect(await raw(running.interfaceOrigin, huge)).toContain('431');
    const odd = `GET //%zz HTTP/1.1\r\nHost: localhost:${new URL(running.proxyOrigin).port}\r\nConnection: close\r\n\r\n`;
    expect(await raw(running.proxyOrigin, odd)).toMatch(/^HTTP\/1\.1 \d{3}/);
    expect(await isUp()).toBe(true);
  });

  it('puts nothing on the shelf that a page hands in unasked; a program may', async () => {
    const url = running.interfaceOrigin.replace('http', 'ws') + INTERFACE_SOCKET_PATH;
    const shelf = new WebSocket(url, ['nettle-patch', running.secret]);
    await once(shelf, 'open');
    const files: string[] = [];
    shelf.on('message', (data, isBinary) => isBinary && files.push(String(data)));
    const post = (headers: Record<string, string>, body: string) =>
      raw(
        running.proxyOrigin,
        `POST ${FILE_PATH}?secret=${secret} HTTP/1.1\r\nHost: localhost:${new URL(running.proxyOrigin).port}\r\nConnection: close\r\nContent-Length: ${body.length}\r\n${Object.entries(
          headers,
        )
          .map(([name, value]) => `${name}: ${value}\r\n`)
          .join('')}\r\n${body}`,
      );
    const { proxyOrigin } = running;
    expect(await post({ Origin: proxyOrigin }, 'from script')).toMatch(/^HTTP\/1\.1 403/);
    expect(await post({ 'Sec-Fetch-Site': 'same-origin' }, 'from script')).toMatch(/^HTTP\/1\.1 403/);
    expect(await post({}, 'from a program')).toMatch(/^HTTP\/1\.1 202/);
    await vi.waitUntil(() => files.length > 0);
    expect(files).toEqual(['from a program']);
    shelf.close();
  });

  it('takes no body beyond its limit', async () => {
    const answer = await fetch(`${running.proxyOrigin}${RESERVED_PATH}rows?secret=${secret}`, {
      method: 'POST',
      body: 'x'.repeat(9 * 1024 * 1024),
    }).then(
      ({ status }) => status,
      () => 'cut off',
    );
    expect([413, 'cut off']).toContain(answer);
    const settings = await fetch(`${running.interfaceOrigin}/api/settings`, {
      method: 'PUT',
      headers: { authorization: `Bearer ${running.secret}`, 'content-type': 'application/json' },
      body: JSON.stringify({ leaveOut: ['x'.repeat(30_000)] }),
    });
    expect([settings.status, await settings.text()]).toEqual([413, 'This cannot be taken.']);
  });

  it('keeps the settings that a message does not name', async () => {
    const put = (body: object) =>
      fetch(`${running.interfaceOrigin}/api/settings`, {
        method: 'PUT',
        headers: { authorization: `Bearer ${running.secret}`, 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    const before = (await (await put({})).json()) as object;
    expect(before).toMatchObject({ mode: 'everyday', labels: 'ids', leaveOut: [] });
    expect(await (await put({ labels: 'texts' })).json()).toEqual({ ...before, labels: 'texts' });
    expect(await (await put({ steps: 'off' })).json()).toEqual({ ...before, labels: 'texts', steps: 'off' });
  });

  it('waits for no request whose head does not come', async () => {
    const server = serverWithTimeouts((_request, response) => void response.end('here'), 300);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const startMs = performance.now();
    expect(await raw(origin, 'GET / HTTP/1.1\r\nHost: loc')).toContain('408');
    expect(performance.now() - startMs).toBeLessThan(5000);
    server.close();
  });

  it('answers what fails with words of its own, and tells of it without secrets', async () => {
    const told = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const server = serverWithTimeouts(() => Promise.reject(new Error('at /home/me: Bearer TOP')));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const answer = await fetch(`http://127.0.0.1:${port}/x?secret=TOP`);
    expect([answer.status, await answer.text()]).toEqual([500, 'Something went wrong here.']);
    expect(told.mock.calls.join()).toContain('GET /x?secret=…');
    expect(told.mock.calls.join()).not.toContain('TOP');
    told.mockRestore();
    server.close();
  });

  it('lets who tries secret after secret wait, and not those who have one', async () => {
    const closings = await Promise.all(Array.from({ length: 90 }, (_, at) => join(`wrong-${at}`).closed));
    expect(closings).toContain(4401);
    expect(closings).toContain(429);
    const { socket } = await joined('desk-with-secret');
    expect(socket.readyState).toBe(WebSocket.OPEN);
    socket.close();
  });

  it('ends a connection that sends without end', async () => {
    const { socket, closed } = await joined('flooding');
    for (let message = 0; message < 1000; message++) socket.send(hello('flooding'));
    expect(await closed).toBe(4429);
  });

  it('takes all the rows at once that a target held back while the connection was lost', async () => {
    const tool = new WebSocket(`${running.interfaceOrigin.replace('http', 'ws')}/relay`, [
      'nettle-patch',
      running.secret,
    ]);
    const taken: string[] = [];
    tool.on('message', (data) => taken.push(String(data)));
    await once(tool, 'open');
    const { socket } = await joined('held-back');
    for (let batch = 0; batch < 1500; batch++) socket.send(rowsOf('held-back'));
    await vi.waitUntil(() => taken.filter((text) => text.includes('"rows"')).length === 1500, 8000);
    const acknowledge = { type: 'acknowledge', targetId: 'held-back', recordingId: 'friday' };
    for (let sequence = 0; sequence < 1500; sequence++)
      tool.send(JSON.stringify({ ...acknowledge, sequence }));
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect([socket.readyState, tool.readyState]).toEqual([WebSocket.OPEN, WebSocket.OPEN]);
    socket.close();
    tool.close();
  });

  it('takes rows from nobody but the target they are of, and no name that another has', async () => {
    const desk = await joined('desk');
    const stranger = await joined('stranger');
    stranger.socket.send(rowsOf('desk'));
    expect(await stranger.closed).toBe(4400);

    const { devices, origin = '' } = running.lan;
    const pairing = await fetch(`${origin}${PAIR_PATH}${devices.code.code}`, {
      method: 'POST',
      headers: { accept: 'text/plain' },
    });
    const deviceSecret = await pairing.text();
    const phone = join(deviceSecret, origin);
    await once(phone.socket, 'open');
    phone.socket.send(hello('desk'));
    expect(await phone.closed).toBe(4400);
    const post = await fetch(`${origin}${RESERVED_PATH}rows?secret=${deviceSecret}`, {
      method: 'POST',
      body: rowsOf('desk'),
    });
    expect([post.status, await post.text()]).toEqual([400, 'these are rows of another target']);
    expect(desk.socket.readyState).toBe(WebSocket.OPEN);

    const again = await joined('desk');
    again.socket.send(rowsOf('desk'));
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(again.socket.readyState).toBe(WebSocket.OPEN);
    desk.socket.close();
    again.socket.close();
  });

  it('gives a device only so many tries at a code', async () => {
    const guess = async () =>
      (await fetch(`${running.lan.origin}${PAIR_PATH}AAAABBBB`, { method: 'POST' })).status;
    const answers: number[] = [];
    for (let tries = 0; tries < 8; tries++) answers.push(await guess());
    expect(answers[0]).toBe(403);
    expect(answers.at(-1)).toBe(429);
  });

  it('gives up who gives no sign of life', async () => {
    const server = new WebSocketServer({ port: 0, host: '127.0.0.1' });
    await once(server, 'listening');
    const end = keepAlive(() => server.clients, 400);
    const address = `ws://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const dead = new WebSocket(address, { autoPong: false });
    const alive = new WebSocket(address);
    const closed = once(dead, 'close');
    await Promise.all([once(dead, 'open'), once(alive, 'open')]);
    await closed;
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(alive.readyState).toBe(WebSocket.OPEN);
    end();
    alive.terminate();
    server.close();
  });

  it('keeps no more than a set amount for an interface that takes nothing', () => {
    class Slow extends EventEmitter {
      bufferedAmount = 0;
      readonly sent: string[] = [];
      ended = false;
      send(message: string) {
        this.sent.push(message);
        this.bufferedAmount += message.length;
      }
      terminate() {
        this.ended = true;
      }
      close() {
        this.ended = true;
      }
    }
    const [slow, target] = [new Slow(), new Slow()];
    const relay = new Relay();
    relay.addInterface(slow as unknown as WebSocket);
    relay.addTarget(target as unknown as WebSocket, { device: null });
    target.emit('message', hello('desk'));
    slow.bufferedAmount = 60 * 1024 * 1024;
    target.emit('message', rowsOf('desk'));
    expect(slow.sent.filter((message) => message.includes('"rows"'))).toHaveLength(1);
    slow.bufferedAmount = 70 * 1024 * 1024;
    target.emit('message', rowsOf('desk'));
    expect(slow.sent.filter((message) => message.includes('"rows"'))).toHaveLength(1);
    slow.bufferedAmount = 140 * 1024 * 1024;
    target.emit('message', hello('desk'));
    expect(slow.ended).toBe(true);
    expect(target.ended).toBe(false);
  });
});
