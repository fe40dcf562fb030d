import { readFileSync } from 'node:fs';
import { createServer, request, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import {
  RECORDER_PATH,
  RESERVED_PATH,
  TARGET_SOCKET_PATH,
  WORKER_SCRIPT_PATH,
  writeBatch,
  type Hello,
  type ServerMessage,
} from '@nettle-patch/core';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { WebSocket } from 'ws';
import { BadAddressError, targetOriginOf } from './apps/target-origin';
import { builtPath } from './assets';
import { serve, type Running } from './serve';

vi.mock('./assets');

let app: Server;
let running: Running;

beforeAll(async () => {
  app = createServer((_request, response) => response.end('app'));
  await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
  running = await serve({
    target: `localhost:${(app.address() as AddressInfo).port}`,
    port: 0,
    proxyPort: 0,
  });
});

afterAll(() => {
  running.close();
  app.close();
});

function open(
  url: string,
  headers: Record<string, string> = {},
  method = 'GET',
  body = '',
): Promise<IncomingMessage> {
  return new Promise((resolve, reject) =>
    request(url, { method, headers }, resolve).on('error', reject).end(body),
  );
}

const status = async (url: string, headers = {}) => (await open(url, headers)).statusCode;
const portOf = (origin: string) => new URL(origin).port;

interface Opened {
  readonly socket: WebSocket;
  readonly messages: string[];
  readonly closed: Promise<number>;
}

function socketTo(
  origin: string,
  path: string,
  secret: string,
  headers: Record<string, string> = {},
): Opened {
  const socket = new WebSocket(origin.replace('http', 'ws') + path, ['nettle-patch', secret], { headers });
  const messages: string[] = [];
  socket.on('message', (data) => messages.push(String(data)));
  const closed = new Promise<number>((resolve) => {
    socket.on('close', resolve);
    socket.on('error', () => resolve(-1));
  });
  return { socket, messages, closed };
}

async function pageSecret(): Promise<string> {
  return text(await open(`${running.proxyOrigin}${RESERVED_PATH}join`));
}

const until = (holds: () => boolean) => vi.waitFor(() => expect(holds()).toBe(true), { timeout: 2000 });

describe('the server', () => {
  it('answers to its own names only, so that a foreign site cannot reach it by a name of its own', async () => {
    for (const origin of [running.interfaceOrigin, running.proxyOrigin]) {
      expect(await status(`${origin}/`, { host: `localhost:${portOf(origin)}` })).not.toBe(421);
      expect(await status(`${origin}/`, { host: `tides.example:${portOf(origin)}` })).toBe(421);
    }
  });

  it('listens on the loopback address', () => {
    expect(running.interfaceOrigin).toMatch(/^http:\/\/127\.0\.0\.1:\d+$/);
  });

  it('hands out sources only to who has the secret of this run', async () => {
    const url = `${running.interfaceOrigin}/api/script?url=x`;
    expect(await status(url)).toBe(401);
    expect(await status(url, { authorization: 'Bearer wrong' })).toBe(401);
    expect(
      await status(url, { authorization: `Bearer ${running.secret}`, origin: 'http://tides.example' }),
    ).toBe(401);
    expect(await status(url, { authorization: `Bearer ${running.secret}` })).toBe(200);
  });

  it('fetches scripts of the app only', async () => {
    const ask = async (script: string) => {
      const answer = await open(`${running.interfaceOrigin}/api/script?url=${encodeURIComponent(script)}`, {
        authorization: `Bearer ${running.secret}`,
      });
      return JSON.parse(await text(answer)) as { text?: string; problem?: string };
    };
    expect(await ask(`${running.proxyOrigin}/desk.js`)).toMatchObject({ text: 'app' });
    expect(await ask('http://127.0.0.1:1/secret')).toMatchObject({
      problem: 'it comes from another origin than the app',
    });
    expect(await ask('file:///etc/hostname')).toMatchObject({
      problem: 'it comes from another origin than the app',
    });
  });

  it('serves the recorder to anyone, and its secret to pages of its own origin only', async () => {
    expect(await status(`${running.proxyOrigin}${RECORDER_PATH}`)).toBe(200);
    const join = `${running.proxyOrigin}${RESERVED_PATH}join`;
    expect(await status(join, { origin: 'http://tides.example' })).toBe(403);
    expect(await status(join, { 'sec-fetch-site': 'cross-site' })).toBe(403);
    expect(await status(join)).toBe(200);
  });

  it('closes sockets with a wrong secret, with a code of its own, and refuses foreign origins outright', async () => {
    expect(await socketTo(running.interfaceOrigin, '/relay', 'wrong').closed).toBe(4401);
    expect(await socketTo(running.proxyOrigin, TARGET_SOCKET_PATH, running.secret).closed).toBe(4401);
    expect(
      await socketTo(running.interfaceOrigin, '/relay', running.secret, { origin: running.proxyOrigin })
        .closed,
    ).toBe(-1);
    expect(
      await socketTo(running.interfaceOrigin, '/relay', running.secret, { origin: 'http://tides.example' })
        .closed,
    ).toBe(-1);
  });

  it('relays: targets to the interface, commands to the target, rows to the interface, leaving to all', async () => {
    const tool = socketTo(running.interfaceOrigin, '/relay', running.secret);
    const page = socketTo(running.proxyOrigin, TARGET_SOCKET_PATH, await pageSecret());
    await until(() => page.socket.readyState === WebSocket.OPEN && tool.socket.readyState === WebSocket.OPEN);
    const hello: Hello = {
      type: 'hello',
      target: {
        id: 'desk',
        title: 'Desk',
        url: '',
        engine: 'Blink',
        device: '',
        available: [],
        missing: [],
        visible: true,
        recording: null,
      },
    };
    page.socket.send(JSON.stringify(hello));
    const lastTargets = () =>
      tool.messages
        .map((message) => JSON.parse(message) as ServerMessage)
        .findLast(({ type }) => type === 'targets');
    await until(() => lastTargets()?.type === 'targets' && JSON.stringify(lastTargets()).includes('"desk"'));

    const command = { type: 'start', targetId: 'desk', recordingId: 'friday' };
    tool.socket.send(JSON.stringify(command));
    await until(() => page.messages.length === 1);
    expect(JSON.parse(page.messages[0]!)).toEqual({ ...command, byText: false, words: false });

    const frame = writeBatch(
      { type: 'rows', targetId: 'desk', recordingId: 'friday', sequence: 0, last: false },
      '{"kind":"x"}\n',
    );
    page.socket.send(frame);
    await until(() => tool.messages.includes(frame));

    page.socket.close();
    await until(() => tool.messages.some((message) => message.includes('target-left')));
    tool.socket.close();
  });

  it('takes the last rows of a page that leaves, with its secret', async () => {
    const frame = writeBatch(
      { type: 'rows', targetId: 'desk', recordingId: 'friday', sequence: 1, last: true },
      '{"kind":"end"}\n',
    );
    const post = async (secret: string, body: string) =>
      (await open(`${running.proxyOrigin}${RESERVED_PATH}rows?secret=${secret}`, {}, 'POST', body))
        .statusCode;
    expect(await post('wrong', frame)).toBe(401);
    expect(await post(await pageSecret(), 'ahoy')).toBe(400);
    expect(await post(await pageSecret(), frame)).toBe(204);
  });

  it('puts the recorder into the text of a worker that a page has made, behind its directives', async () => {
    const ask = async (secret: string, body: string) => {
      const path = `${WORKER_SCRIPT_PATH}?secret=${secret}&name=tides&type=classic`;
      return open(running.proxyOrigin + path, {}, 'POST', body);
    };
    expect((await ask('wrong', 'ahoy()')).statusCode).toBe(401);
    const answer = await ask(await pageSecret(), "'use strict'; ahoy()");
    const script = await text(answer);
    expect(answer.statusCode).toBe(200);
    expect(script.startsWith("'use strict';") && script.endsWith('ahoy()')).toBe(true);
    expect(script).toContain(readFileSync(builtPath('worker'), 'utf8'));
    expect(await text(await ask(await pageSecret(), 'ahoy('))).toBe('ahoy(');
    expect((await ask(await pageSecret(), ' '.repeat(9 * 2 ** 20))).statusCode).toBe(413);
  });

  it('closes a connection that does not speak the protocol', async () => {
    const tool = socketTo(running.interfaceOrigin, '/relay', running.secret);
    await until(() => tool.socket.readyState === WebSocket.OPEN);
    tool.socket.send('ahoy');
    expect(await tool.closed).toBe(4400);
  });

  it('takes the next free port where one is taken, and says so', async () => {
    const taken = Number(portOf(running.interfaceOrigin));
    const other = await serve({ target: 'localhost:1', port: taken, proxyPort: 0 });
    expect(other.moved).toEqual([
      { what: 'the tool', from: taken, to: Number(portOf(other.interfaceOrigin)) },
    ]);
    other.close();
  });
});

describe('addresses of apps', () => {
  it('are taken as people type them', () => {
    expect(targetOriginOf('localhost:3000')).toBe('http://localhost:3000');
    expect(targetOriginOf('https://desk.test/board?x')).toBe('https://desk.test');
    expect(() => targetOriginOf('ftp://desk')).toThrow(BadAddressError);
    expect(() => targetOriginOf('http://')).toThrow('no address of a web server');
  });
});
