import { mkdtempSync, writeFileSync } from 'node:fs';
import {
  createServer,
  request as httpRequest,
  type IncomingMessage,
  type Server,
  type ServerResponse,
} from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WebSocket, WebSocketServer } from 'ws';
import { DEFAULT_SETTINGS } from '@nettle-patch/core';
import { DEVICE_COOKIE } from '../lan/lan-gate';
import { RecordingProxy } from './proxy';
import { ProxyControl } from './proxy-control';

/** Stands for the recorder of workers, which need not be built here. */
const PRELUDE = 'globalThis.recorder=1';
const preludeFile = join(mkdtempSync(join(tmpdir(), 'nettle-patch-')), 'worker.js');
writeFileSync(preludeFile, PRELUDE);
vi.mock('../assets', async (original) => {
  const { builtPath } = (await original()) as { builtPath: (part: string) => string };
  return { builtPath: (part: string) => (part === 'rewriting' ? builtPath(part) : preludeFile) };
});

const PAGE = '<!doctype html><html><head><title>B\u00e5t</title></head><body>quay</body></html>';
type Handler = (request: IncomingMessage, response: ServerResponse) => void;

let app: Server;
let front: Server;
let handler: Handler;
let proxy: RecordingProxy;
let control: ProxyControl;
const ports = { app: 0, front: 0 };

async function listen(server: Server): Promise<number> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return (server.address() as AddressInfo).port;
}

beforeEach(async () => {
  app = createServer((request, response) => handler(request, response));
  ports.app = await listen(app);
  control = new ProxyControl({ ...DEFAULT_SETTINGS });
  proxy = new RecordingProxy({
    targetOrigin: `http://localhost:${ports.app}`,
    gate: {
      get origin() {
        return `http://localhost:${ports.front}`;
      },
      secretFor: () => 'secret',
    },
    control,
  });
  front = createServer((request, response) => proxy.handle(request, response));
  front.on('upgrade', (request, socket, head) => proxy.upgrade(request, socket, head));
  ports.front = await listen(front);
});

afterEach(() => {
  for (const server of [app, front]) {
    server.close();
    server.closeAllConnections();
  }
});

function get(path: string, headers: Record<string, string> = {}, method = 'GET'): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const options = {
      port: ports.front,
      path,
      method,
      headers: { 'sec-fetch-dest': 'document', ...headers },
    };
    httpRequest({ host: 'localhost', ...options }, resolve)
      .on('error', reject)
      .end();
  });
}

const bodyOf = async (answer: IncomingMessage) => (await buffer(answer)).toString('utf8');

describe('the proxy', () => {
  it('loses no request to an app that ends connections which wait for the next one', async () => {
    const used = new WeakSet<object>();
    handler = (request, response) => {
      if (used.has(request.socket)) request.socket.destroy();
      else response.setHeader('content-type', 'text/plain').end('quay');
      used.add(request.socket);
    };
    for (let again = 0; again < 4; again++) {
      const answer = await get('/tides', { connection: 'keep-alive' });
      expect([answer.statusCode, await bodyOf(answer)]).toEqual([200, 'quay']);
    }
  });

  it('keeps what lets a device in from the app, and passes its other cookies on', async () => {
    const seen: (string | undefined)[] = [];
    handler = (request, response) => {
      seen.push(request.headers.cookie);
      response.end();
    };
    await get('/', { cookie: `${DEVICE_COOKIE}=abc; sailing=friday; ${DEVICE_COOKIE}x=1` });
    await get('/', { cookie: `sailing=friday; ${DEVICE_COOKIE}=abc` });
    await get('/', { cookie: `${DEVICE_COOKIE}=abc` });
    expect(seen).toEqual([`sailing=friday; ${DEVICE_COOKIE}x=1`, 'sailing=friday', undefined]);
  });

  it('puts the recorder into documents, compressed ones too, and lets them take samples', async () => {
    const codings = { identity: (text: string) => Buffer.from(text), gzip: gzipSync, br: brotliCompressSync };
    for (const [coding, pack] of Object.entries(codings)) {
      handler = (_request, response) => {
        response.setHeader('content-type', 'text/html; charset=utf-8');
        if (coding !== 'identity') response.setHeader('content-encoding', coding);
        response.end(pack(PAGE));
      };
      const answer = await get('/', { 'accept-encoding': 'gzip, br, zstd' });
      const body = await bodyOf(answer);
      expect(body).toContain('/__nettle-patch/recorder.js');
      expect(body.replace(/<script .*?<\/script>/g, '')).toBe(PAGE);
      expect(answer.headers['document-policy']).toBe('js-profiling');
      expect(answer.headers['content-encoding']).toBeUndefined();
    }
  });

  it('passes everything else byte for byte, compressed as it came', async () => {
    const packed = gzipSync('body { color: red }');
    handler = (_request, response) => {
      response.writeHead(200, {
        'content-type': 'text/css',
        'content-encoding': 'gzip',
        'content-length': packed.length,
      });
      response.end(packed);
    };
    const answer = await get('/desk.css', { 'sec-fetch-dest': 'style' });
    expect(answer.headers['content-encoding']).toBe('gzip');
    expect((await buffer(answer)).equals(packed)).toBe(true);
  });

  it('hands a streaming page on as it comes', async () => {
    let finish: () => void = () => undefined;
    handler = (_request, response) => {
      response.setHeader('content-type', 'text/html');
      response.write('<!doctype html><html><body><p>first</p>');
      finish = () => response.end('<p>last</p>');
    };
    const answer = await get('/');
    const first = await new Promise<string>((resolve) =>
      answer.once('data', (piece: Buffer) => resolve(String(piece))),
    );
    expect(first).toContain('recorder.js');
    finish();
    expect(await bodyOf(answer)).toContain('<p>last</p>');
  });

  it('hands events on one by one', async () => {
    let response: ServerResponse | undefined;
    handler = (_request, given) => {
      response = given;
      given.writeHead(200, { 'content-type': 'text/event-stream' });
      given.write('data: tide\n\n');
    };
    const answer = await get('/events', { 'sec-fetch-dest': 'empty' });
    const next = () =>
      new Promise<string>((resolve) => answer.once('data', (piece: Buffer) => resolve(String(piece))));
    expect(await next()).toBe('data: tide\n\n');
    response!.write('data: swell\n\n');
    expect(await next()).toBe('data: swell\n\n');
    response!.end();
  });

  it('keeps redirects on its own origin, and foreign ones as they are', async () => {
    handler = (request, response) => {
      const location =
        request.url === '/own' ? `http://localhost:${ports.app}/board?a=1` : 'https://tides.example/';
      response.writeHead(302, { location }).end();
    };
    expect((await get('/own')).headers.location).toBe(`http://localhost:${ports.front}/board?a=1`);
    expect((await get('/foreign')).headers.location).toBe('https://tides.example/');
  });

  it('keeps cookies both ways, several at once', async () => {
    let sent: string | undefined;
    handler = (request, response) => {
      sent = request.headers.cookie;
      response.setHeader('set-cookie', ['crew=7; Path=/; HttpOnly', 'gate=2; SameSite=Lax']);
      response.end();
    };
    const answer = await get('/', { cookie: 'crew=6' });
    expect(sent).toBe('crew=6');
    expect(answer.headers['set-cookie']).toEqual(['crew=7; Path=/; HttpOnly', 'gate=2; SameSite=Lax']);
  });

  it('shows the app its own host and origin', async () => {
    let seen: IncomingMessage['headers'] = {};
    handler = (request, response) => {
      seen = request.headers;
      response.end();
    };
    await get('/', {
      origin: `http://localhost:${ports.front}`,
      referer: `http://localhost:${ports.front}/board`,
    });
    expect(seen.host).toBe(`localhost:${ports.app}`);
    expect(seen.origin).toBe(`http://localhost:${ports.app}`);
    expect(seen.referer).toBe(`http://localhost:${ports.app}/board`);
  });

  it('leaves answers without a body, partial ones and fragments alone', async () => {
    handler = (_request, response) =>
      response.writeHead(200, { 'content-type': 'text/html', 'content-length': 9 }).end('<p>ok</p>');
    expect((await get('/', {}, 'HEAD')).headers['content-length']).toBe('9');
    expect(await bodyOf(await get('/part', { 'sec-fetch-dest': 'empty' }))).toBe('<p>ok</p>');
    handler = (_request, response) =>
      response.writeHead(304, { 'content-type': 'text/html', etag: '"7"' }).end();
    expect((await get('/')).statusCode).toBe(304);
  });

  it('adapts a policy header', async () => {
    handler = (_request, response) => {
      response
        .writeHead(200, { 'content-type': 'text/html', 'content-security-policy': "default-src 'self'" })
        .end(PAGE);
    };
    expect((await get('/')).headers['content-security-policy']).toContain('/__nettle-patch/recorder.js');
  });

  it('passes web sockets', async () => {
    handler = (_request, response) => response.end();
    const echo = new WebSocketServer({ server: app });
    echo.on('connection', (socket) => socket.on('message', (data) => socket.send(`echo ${String(data)}`)));
    const socket = new WebSocket(`ws://localhost:${ports.front}/hot`);
    await new Promise((resolve) => socket.once('open', resolve));
    socket.send('reload');
    const heard = await new Promise((resolve) => socket.once('message', (data) => resolve(String(data))));
    expect(heard).toBe('echo reload');
    socket.close();
    echo.close();
  });

  it('says what to do when the app is not there', async () => {
    app.close();
    app.closeAllConnections();
    const answer = await get('/');
    expect(answer.statusCode).toBe(502);
    expect(await bodyOf(answer)).toContain('Nothing listens at this address');
  });

  describe('in exact mode', () => {
    const SCRIPT = 'const fold = (names) => names.map((name) => name.trim());\nfold(["a"]);';
    const sri = 'sha256-oYSHV9bWSWyaW5gMlqgzrULGqQXtUsJqC5OTPSaYMPI=';
    const scripts = (path: string) => get(path, { 'sec-fetch-dest': 'script', 'if-none-match': '"1"' });
    beforeEach(() => {
      control.settings = { ...DEFAULT_SETTINGS, mode: 'exact', leaveOut: ['/vendor/'] };
    });

    it('rewrites scripts, which are then never kept, and leaves others as they are', async () => {
      const asked: unknown[] = [];
      handler = (request, response) => {
        asked.push(request.headers['if-none-match']);
        response.writeHead(200, {
          'content-type': 'text/javascript',
          etag: '"1"',
          'cache-control': 'max-age=99',
        });
        response.end(SCRIPT);
      };
      const answer = await scripts('/desk.js');
      const code = (await buffer(answer)).toString('utf8');
      expect(code).toContain('__np_e(');
      expect(code.split('\n')[0]).toContain('const fold');
      expect(answer.headers).toMatchObject({ 'cache-control': 'no-store' });
      expect([answer.headers.etag, asked[0]]).toEqual([undefined, undefined]);
      expect((await buffer(await scripts('/vendor/tides.js'))).toString('utf8')).toBe(SCRIPT);
      for (const destination of ['worker', 'sharedworker', 'serviceworker']) {
        const script = await buffer(await get('/desk.js', { 'sec-fetch-dest': destination })).then(String);
        expect(script.startsWith(PRELUDE) && script.includes('const fold'), destination).toBe(true);
      }
      expect(await buffer(await get('/desk.js', { 'sec-fetch-dest': 'empty' })).then(String)).toBe(SCRIPT);
      expect(control.rewriter.uninstrumented.map(({ url }) => new URL(url).pathname)).toEqual([
        '/vendor/tides.js',
      ]);
    });

    it('rewrites the scripts that stand in a page, on their own lines, and no data', async () => {
      const html = `<!doctype html><html><head>\n<script type="application/json">{"a": [1]}</script>\n<script>\n${SCRIPT}\n</script></head></html>`;
      handler = (_request, response) => response.writeHead(200, { 'content-type': 'text/html' }).end(html);
      const text = (await buffer(await get('/'))).toString('utf8');
      expect(text).toContain('<script type="application/json">{"a": [1]}</script>');
      expect(text).toContain('__np_e(');
      const lineOf = (where: string) => where.split('\n').findIndex((line) => line.includes('const fold'));
      expect(lineOf(text)).toBe(lineOf(html));
    });

    it('rewrites no end of a script into one, and keeps the lines of those after directives and comments', async () => {
      const inline = [
        `const o = { "<\\/script>": (names) => names.map((name) => name.trim() + '<\\/script>') };`,
        `<!-- <script> "<\\/script>" -->\nconst fold = (names) => names.map((name) => name.trim());`,
        `/* first */ 'use strict'\n// second\nconst fold = (names) => names.map((name) => name.trim());`,
        `--> a comment\n\nconst fold = (names) => names.map((name) => \`\n\n\${name}\`);`,
      ];
      const html = `<!doctype html><html><head>\n${inline.map((text) => `<script>\n${text}\n</script>`).join('\n')}</head></html>`;
      handler = (_request, response) => response.writeHead(200, { 'content-type': 'text/html' }).end(html);
      const text = (await buffer(await get('/'))).toString('utf8');
      expect(control.rewriter.uninstrumented).toEqual([]);
      const added = text.match(/data-secret=/g)!.length;
      expect(text.match(/<\/script>/g)).toHaveLength(inline.length + added);
      const linesWith = (where: string) =>
        where.split('\n').flatMap((line, at) => (/const (o|fold) =/.test(line) ? [at] : []));
      expect(linesWith(text)).toEqual(linesWith(html));
    });

    it('takes away hashes of texts that it changes, and leaves a page alone whose policy knows its scripts by theirs', async () => {
      const page = (policy: string) => {
        handler = (_request, response) =>
          response
            .writeHead(200, { 'content-type': 'text/html', 'content-security-policy': policy })
            .end(
              `<!doctype html><script src="/desk.js" integrity="${sri}"></script><script>${SCRIPT}</script>`,
            );
        return get('/').then(buffer).then(String);
      };
      const free = await page("script-src 'self' 'unsafe-inline'");
      expect(free).not.toContain('integrity');
      expect(free).toContain('__np_e(');
      const hashed = await page(`script-src 'self' '${sri}'`);
      expect(hashed).not.toContain('__np_e(');
      expect(control.rewriter.uninstrumented.at(-1)!.problem).toContain('exact text');
    });

    it('isolates pages where it is wanted', async () => {
      control.settings = { ...control.settings, isolate: true };
      handler = (_request, response) => response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE);
      expect((await get('/')).headers).toMatchObject({
        'cross-origin-opener-policy': 'same-origin',
        'cross-origin-embedder-policy': 'credentialless',
      });
    });
  });
});
