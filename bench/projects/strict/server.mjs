/** A minified build with lazy chunks and maps beside them, under a strict policy, answered by 304 where it can be. */
import { createHash, randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import { build } from 'esbuild';

const POLICIES = {
  nonce: (nonce) => `script-src 'nonce-${nonce}' 'self'`,
  strict: (nonce) => `script-src 'nonce-${nonce}' 'strict-dynamic'`,
  hash: (_nonce, hash) => `script-src 'sha256-${hash}' 'self'`,
};
const TELL = 'TELL_ERRORS';
const hash = createHash('sha256').update(TELL).digest('base64');
const { outputFiles } = await build({
  entryPoints: ['src/main.js', 'src/worker.js'],
  bundle: true,
  splitting: true,
  format: 'esm',
  minify: true,
  sourcemap: true,
  write: false,
  outdir: '/',
});
const files = new Map(outputFiles.map(({ path, contents }) => [path, contents]));
// One text for all answers, as an answer without a body has no other.
const nonce = randomBytes(9).toString('base64');
const page = `<!doctype html><html lang="en"><head><title>Skerry Line</title><link rel="icon" href="data:,">
<script nonce="${nonce}">${TELL}</script></head><body><div id="root"></div>
<script type="module" nonce="${nonce}" src="/main.js"></script></body></html>`;

createServer((request, response) => {
  const { pathname, searchParams } = new URL(request.url, 'http://localhost');
  const file = files.get(pathname);
  if (pathname !== '/' && file === undefined) return response.writeHead(404).end();
  const body = file ?? Buffer.from(page);
  const policy = POLICIES[searchParams.get('policy') ?? 'nonce'](nonce, hash);
  const headers = {
    etag: `"${createHash('sha256').update(body).digest('hex').slice(0, 16)}"`,
    'cache-control': 'no-cache',
    'content-type':
      pathname === '/' ? 'text/html' : pathname.endsWith('.map') ? 'application/json' : 'text/javascript',
    ...(pathname === '/'
      ? { 'content-security-policy': `default-src 'none'; ${policy}; connect-src 'self' TALLY` }
      : {}),
  };
  if (request.headers['if-none-match'] === headers.etag) response.writeHead(304, headers).end();
  else response.writeHead(200, headers).end(body);
}).listen(Number(process.argv[2]), '127.0.0.1');
