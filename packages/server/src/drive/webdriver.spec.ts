import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { WebDriverBrowser } from './webdriver';

const servers: Server[] = [];

afterEach(() => {
  for (const server of servers.splice(0)) server.close().closeAllConnections();
});

/** An end point that says something to whatever it is asked. */
async function endPoint(status: number, text: string): Promise<string> {
  const server = createServer((_request, response) => response.writeHead(status).end(text));
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

const opened = async (status: number, text: string) =>
  WebDriverBrowser.open(await endPoint(status, text), {}).then(
    () => 'opened',
    (error: unknown) => `${(error as Error).name}: ${(error as Error).message}`,
  );

describe('an end point of WebDriver', () => {
  it('that refuses is quoted by the first line of what it says', async () => {
    const refusal = { value: { error: 'session not created', message: 'no such phone\nat 0x1' } };
    expect(await opened(500, JSON.stringify(refusal))).toContain('no such phone');
    expect(await opened(500, JSON.stringify(refusal))).not.toContain('0x1');
  });

  it.each([
    [200, '<html>Welcome to the quay</html>'],
    [200, 'null'],
    [500, '{"value":null}'],
    [502, ''],
    [404, '{"value":{"error":7}}'],
  ])('that answers %i with %j is said to speak something else', async (status, text) => {
    expect(await opened(status, text)).toContain('no answer of WebDriver');
  });
});
