import { createServer as createPlain, get, type IncomingMessage, type Server } from 'node:http';
import { createServer as createSecure } from 'node:https';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { DEFAULT_SETTINGS } from '@nettle-patch/core';
import { afterEach, describe, expect, it } from 'vitest';
import { WebSocket, WebSocketServer } from 'ws';
import { CERTIFICATE } from '../testing/certificate';
import { RecordingProxy } from './proxy';
import { ProxyControl } from './proxy-control';

const servers: Server[] = [];
afterEach(() => {
  for (const server of servers.splice(0)) {
    server.close();
    server.closeAllConnections();
  }
});

async function listen(server: Server, host: string): Promise<number> {
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, host, resolve));
  return (server.address() as AddressInfo).port;
}

/** An app, and the proxy before it. @returns the port of the proxy, and the host the app is asked for by */
async function proxied(scheme: 'http' | 'https', name: string, address: string) {
  const answer = (request: IncomingMessage) => `quay ${request.headers.host}`;
  const app =
    scheme === 'http'
      ? createPlain((request, response) => response.end(answer(request)))
      : createSecure(CERTIFICATE, (request, response) => response.end(answer(request)));
  new WebSocketServer({ server: app, handleProtocols: (offered) => [...offered][1]! }).on(
    'connection',
    (socket) => socket.send(socket.protocol),
  );
  const host = `${name}:${await listen(app, address)}`;
  const proxy = new RecordingProxy({
    targetOrigin: `${scheme}://${host}`,
    gate: { origin: 'http://localhost:4781', secretFor: () => 'secret' },
    control: new ProxyControl({ ...DEFAULT_SETTINGS }),
  });
  const front = createPlain((request, response) => proxy.handle(request, response));
  front.on('upgrade', (request, socket, head) => proxy.upgrade(request, socket, head));
  return { port: await listen(front, '127.0.0.1'), host };
}

describe.each([
  ['http', '[::1]', '::1'],
  ['http', '127.0.0.1', '127.0.0.1'],
  ['https', 'localhost', '127.0.0.1'],
  ['https', '[::1]', '::1'],
] as const)('an app at %s://%s', (scheme, name, address) => {
  it('is reached, by its own host, and so are its sockets with the protocol they choose', async () => {
    const { port, host } = await proxied(scheme, name, address);
    const answer = await new Promise<IncomingMessage>((resolve) => get({ port, path: '/' }, resolve));
    expect(await text(answer)).toBe(`quay ${host}`);
    const socket = new WebSocket(`ws://localhost:${port}/`, ['tides', 'ferries']);
    const said = await new Promise((resolve, reject) => {
      socket.once('message', (data) => resolve(String(data)));
      socket.once('error', reject);
    });
    expect([said, socket.protocol]).toEqual(['ferries', 'ferries']);
    socket.close();
  });
});
