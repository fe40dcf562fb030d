import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, it, vi } from 'vitest';
import { replaysPart } from '../drive/replays-part';
import { serve, type Running, type ServeOptions } from '../serve';
import { PortMemory } from './port-memory';

vi.mock('../assets');

const ends: (() => void)[] = [];
afterEach(() => {
  for (const end of ends.splice(0)) end();
});

const newFile = () => join(mkdtempSync(join(tmpdir(), 'ports-')), 'kept', 'ports.json');

async function app(text: string): Promise<string> {
  const server: Server = createServer((_request, response) =>
    response.writeHead(200, { 'content-type': 'text/html' }).end(`<title>${text}</title>${text}`),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  ends.push(() => server.close());
  return `http://localhost:${(server.address() as AddressInfo).port}`;
}

async function running(options: Partial<ServeOptions> = {}): Promise<Running> {
  const started = await serve({ port: 0, proxyPort: 0, ...options });
  ends.push(() => started.close());
  return started;
}

/** A port in a stretch that nothing else here takes. */
const somePort = () => 21_000 + Math.floor(Math.random() * 8000);

const ask = ({ interfaceOrigin, secret }: Running, method: string, path: string, body?: object) =>
  fetch(`${interfaceOrigin}/api/${path}`, {
    method,
    headers: { authorization: `Bearer ${secret}`, 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
const pageAt = async (url: string) => (await fetch(url)).text();

it('serves without an app, takes apps by their addresses, and lets them go', async () => {
  const [quay, office] = [await app('Quay'), await app('Office')];
  const server = await running();
  const door = await fetch(server.proxyOrigin);
  expect([door.status, await door.text()]).toEqual([404, 'No app is opened here. Choose one in the tool.']);
  const add = async (address: string) =>
    (await (await ask(server, 'POST', 'apps', { address })).json()) as { target: string; url: string };
  const first = await add(quay.replace('http://', ''));
  const second = await add(office);
  expect(first.target).toBe(quay);
  expect(new URL(first.url).port).not.toBe(new URL(second.url).port);
  expect(await pageAt(first.url)).toContain('Quay');
  expect(await pageAt(second.url)).toContain('Office');
  expect(await add(quay.replace('localhost', '127.0.0.1'))).toEqual(first);

  expect((await ask(server, 'DELETE', 'apps', { address: quay })).status).toBe(204);
  await expect(fetch(first.url)).rejects.toThrow();
  expect(await pageAt(second.url)).toContain('Office');
  expect((await ask(server, 'DELETE', 'apps', { address: quay })).status).toBe(404);
});

it('says what is wrong with an address, and what needs an app first', async () => {
  const server = await running({ parts: (targetFor) => [replaysPart(targetFor)] });
  const refused = async (path: string, body: object) => {
    const answer = await ask(server, 'POST', path, body);
    return `${answer.status} ${await answer.text()}`;
  };
  expect(await refused('apps', { address: 'ftp://quay' })).toContain('400 "ftp://quay" is no address');
  expect(await refused('apps', {})).toContain('400 address is a required field');
  expect(await refused('lan', {})).toContain('400 Choose an app first');
  const replay = {
    steps: [{ do: 'wait', ms: 1 }],
    times: 1,
    browser: 'chromium',
    path: '/',
    mode: 'everyday',
  };
  expect(await refused('replay', replay)).toContain('400 Choose an app first');
});

it('opens each app at the same port in every run, and at no other’s', async () => {
  const file = newFile();
  const [quay, office] = [await app('Quay'), await app('Office')];
  const port = somePort();
  const originOf = async (target: string) => {
    const server = await serve({ target, port, ports: new PortMemory(file) });
    server.close();
    return server.proxyOrigin;
  };
  const first = await originOf(quay);
  const second = await originOf(office);
  expect(second).not.toBe(first);
  expect(await originOf(office.replace('localhost', '127.0.0.1'))).toBe(second);
  expect(await originOf(quay)).toBe(first);
});

it('tells when a port that is wished for was another app’s', async () => {
  const ports = new PortMemory(newFile());
  const [quay, office] = [await app('Quay'), await app('Office')];
  const port = somePort();
  const earlierOf = async (target: string) => {
    const server = await serve({ target, port, proxyPort: port + 30, ports });
    server.close();
    return server.earlier;
  };
  expect(await earlierOf(quay)).toBeUndefined();
  expect(await earlierOf(quay)).toBeUndefined();
  expect(await earlierOf(office)).toBe(quay);
});

it('begins anew where what it remembers cannot be read', async () => {
  const file = newFile();
  await new PortMemory(file).keep('http://localhost:1', 4781);
  const kept = readFileSync(file, 'utf8');
  for (const text of [kept.slice(0, -3), '{}', 'null', '{"ports":{"http://localhost:1":99999}}', '']) {
    writeFileSync(file, text);
    expect(await new PortMemory(file).portOf('http://localhost:1'), text).toBeUndefined();
  }
  writeFileSync(file, kept);
  expect(await new PortMemory(file).portOf('http://localhost:1')).toBe(4781);
});
