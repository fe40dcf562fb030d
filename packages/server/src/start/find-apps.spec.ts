import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { chosen, offerOf } from './choose-app';
import { findApps } from './find-apps';

const servers: Server[] = [];
afterEach(() => {
  for (const server of servers.splice(0)) {
    server.close();
    server.closeAllConnections();
  }
});

async function listening(answer: RequestListener, host: string): Promise<number> {
  const server = createServer(answer);
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, host, resolve));
  return (server.address() as AddressInfo).port;
}

const page: RequestListener = (_request, response) =>
  response.writeHead(200, { 'content-type': 'text/html' }).end('<title>Boarding\n desk</title>');

describe('apps of this computer', () => {
  it('are found at either of its addresses, by the title of their page', async () => {
    const ports = [await listening(page, '127.0.0.1'), await listening(page, '::1')];
    expect(await findApps(ports)).toEqual(
      ports.map((port) => ({ origin: `http://localhost:${port}`, title: 'Boarding desk' })),
    );
  });

  it('are none of what gives no page, gives nothing, or is not there', async () => {
    const data = await listening((_request, response) => {
      response.writeHead(200, { 'content-type': 'application/json' }).end('{}');
    }, '127.0.0.1');
    const silent = await listening(() => undefined, '127.0.0.1');
    const gone = await listening(page, '127.0.0.1');
    const last = servers.at(-1)!;
    await new Promise((resolve) => last.close(resolve));
    expect(await findApps([data, silent, gone])).toEqual([]);
  });

  it('are offered by number, with no control characters of theirs, and chosen by it or by another address', () => {
    const apps = [
      { origin: 'http://localhost:3000', title: 'Desk\u001b[2J' },
      { origin: 'http://localhost:5173', title: '' },
    ];
    expect(offerOf(apps)).toEqual([
      '  1  http://localhost:3000  Desk\\u001b[2J',
      '  2  http://localhost:5173',
    ]);
    expect(chosen(apps, '')).toBe('http://localhost:3000');
    expect(chosen(apps, ' 2 ')).toBe('http://localhost:5173');
    expect(chosen(apps, '3')).toBeUndefined();
    expect(chosen([], '')).toBeUndefined();
    expect(chosen(apps, 'localhost:8080')).toBe('localhost:8080');
  });
});
