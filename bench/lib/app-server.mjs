/**
 * The apps of `bench/apps`, built as their developers would for themselves: what they are made of is installed in a
 * temporary folder, bundled with source maps and not minified.
 */
import { cpSync, readFileSync, readdirSync } from 'node:fs';
import { createServer } from 'node:http';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { listening } from '../../scripts/lib/listening.mjs';
import { installed } from './installed.mjs';

const APPS = fileURLToPath(new URL('../apps/', import.meta.url));
const TYPES = {
  js: 'text/javascript',
  map: 'application/json',
  json: 'application/json',
  css: 'text/css',
  webm: 'video/webm',
};

function svelte(folder) {
  const { compile } = createRequire(join(folder, 'package.json'))('svelte/compiler');
  return {
    name: 'svelte',
    setup({ onLoad }) {
      onLoad({ filter: /\.svelte$/ }, (file) => {
        const { js } = compile(readFileSync(file.path, 'utf8'), { filename: file.path, dev: true });
        const map = Buffer.from(JSON.stringify(js.map)).toString('base64');
        return {
          contents: `${js.code}\n//# sourceMappingURL=data:application/json;base64,${map}`,
          loader: 'js',
        };
      });
    },
  };
}

/** Names of the apps. */
export const appNames = () =>
  readdirSync(APPS)
    .filter((file) => /\.jsx?$/.test(file) && file !== 'world.js')
    .map((file) => file.replace(/\.jsx?$/, ''));

/**
 * Serves each app at `/<name>`, and takes the film of one by `PUT /crossing.webm`.
 * @returns the app, as `listening` gives it
 */
export async function createAppServer() {
  const folder = installed(APPS);
  const out = join(folder, 'out');
  const entries = readdirSync(folder).filter((file) =>
    appNames().some((name) => file.startsWith(`${name}.js`)),
  );
  await build({
    absWorkingDir: folder,
    entryPoints: entries,
    outdir: out,
    bundle: true,
    format: 'esm',
    sourcemap: true,
    jsx: 'automatic',
    conditions: ['development', 'browser'],
    define: {
      'process.env.NODE_ENV': '"development"',
      __VUE_OPTIONS_API__: 'true',
      __VUE_PROD_DEVTOOLS__: 'false',
      __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false',
    },
    plugins: [svelte(folder)],
    loader: { '.png': 'dataurl' },
    logLevel: 'error',
  });
  cpSync(join(folder, 'node_modules/leaflet/dist/leaflet.css'), join(out, 'map.css'));
  const files = new Map(readdirSync(out).map((file) => [`/${file}`, readFileSync(join(out, file))]));
  const page = (name) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${name}</title>
<link rel="icon" href="data:,"><link rel="stylesheet" href="/${name}.css"></head>
<body><script type="module" src="/${name}.js"></script></body></html>`;
  files.set('/messages.json', Buffer.from('[]'));
  const server = createServer(async (request, answer) => {
    const { pathname } = new URL(request.url, 'http://localhost');
    if (request.method === 'PUT') {
      const parts = [];
      for await (const part of request) parts.push(part);
      files.set(pathname, Buffer.concat(parts));
      answer.end();
      return;
    }
    const name = pathname.slice(1);
    const body =
      files.get(pathname) ?? (appNames().includes(name) ? Buffer.from(page(name)) : Buffer.from(''));
    const type = TYPES[pathname.split('.').at(1)] ?? 'text/html';
    const [, from, to] = /bytes=(\d+)-(\d*)/.exec(request.headers.range ?? '') ?? [];
    answer.setHeader('content-type', type).setHeader('accept-ranges', 'bytes');
    if (from === undefined) {
      answer.end(body);
      return;
    }
    const last = to ? Number(to) : body.length - 1;
    answer.writeHead(206, { 'content-range': `bytes ${from}-${last}/${body.length}` });
    answer.end(body.subarray(Number(from), last + 1));
  });
  return listening(server);
}
