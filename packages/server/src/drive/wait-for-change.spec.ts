import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { BadArgumentError } from './arguments';
import { namedFiles, waitForChange } from './wait-for-change';

const PAGE = '<!doctype html><title>Boarding desk</title><script type="module" src="/desk.js"></script>';
const pollMs = 20;

let server: Server | undefined;
afterEach(() => server?.close());

/** A page and its script, as they are at the time. */
async function serving(textOf: (path: string) => string | undefined): Promise<URL> {
  server = createServer((request, response) => {
    const text = textOf(request.url!);
    response.writeHead(text === undefined ? 503 : 200, { 'content-type': 'text/html' });
    response.end(text ?? '');
  });
  await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
  return new URL(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
}

describe('waiting for another version of a page', () => {
  it('goes on when a script of the page is another and stays so, over a pause in which nothing answers', async () => {
    let script: string | undefined = 'one';
    const page = await serving((path) => (path === '/' ? PAGE : script));
    let [isReady, isThere] = [false, false];
    const onReady = () => (isReady = true);
    const waiting = waitForChange({ page, pollMs, onReady }).then(() => (isThere = true));
    await new Promise((resolve) => setTimeout(resolve, 10 * pollMs));
    expect([isReady, isThere]).toEqual([true, false]);
    script = undefined;
    await new Promise((resolve) => setTimeout(resolve, 6 * pollMs));
    expect(isThere).toBe(false);
    script = 'two';
    await waiting;
    expect(isThere).toBe(true);
  });

  it('is ended by a person', async () => {
    const page = await serving((path) => (path === '/' ? PAGE : 'one'));
    await waitForChange({ page, pollMs, said: new Promise((resolve) => setTimeout(resolve, 5 * pollMs)) });
  });

  it('refuses a page that is another each time', async () => {
    let count = 0;
    const page = await serving(() => `${PAGE}${count++}`);
    await expect(waitForChange({ page, pollMs })).rejects.toThrow(BadArgumentError);
  });

  it('knows scripts and styles of the page, and none of other origins', () => {
    const html =
      '<link rel="stylesheet" href=desk.css><script src="/desk.js"></script><script src="https://cdn.example/x.js">';
    expect(namedFiles(html, new URL('http://localhost:3000/a/'))).toEqual([
      'http://localhost:3000/a/desk.css',
      'http://localhost:3000/desk.js',
    ]);
  });
});
