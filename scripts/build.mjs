/**
 * Builds all parts: the recorder's files, what trials run in, the server, the boarding desk, and the interface.
 * With names as arguments ("recorder", "trial", "server", "demo", "app"), only those.
 */
import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { buildRecorder, buildRecorderModule } from './lib/build-recorder.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const path = (relative) => `${root}${relative}`;

const forNode = { bundle: true, platform: 'node', format: 'esm', target: 'node20', packages: 'external' };
/** Packages of the project are TypeScript source, so they are bundled although they are packages. */
const bundleOwn = {
  alias: {
    '@nettle-patch/core': path('packages/core/src/index.ts'),
    '@nettle-patch/instrument': path('packages/instrument/src/index.ts'),
  },
};

const parts = {
  async recorder() {
    mkdirSync(path('packages/recorder/dist'), { recursive: true });
    for (const { name, text } of [...(await buildRecorder()), await buildRecorderModule()]) {
      writeFileSync(path(`packages/recorder/dist/${name}`), text);
    }
  },
  async trial() {
    await build({
      ...bundleOwn,
      entryPoints: ['page', 'frame', 'worker'].map((name) => path(`packages/trial/src/${name}.ts`)),
      outdir: path('packages/trial/dist'),
      bundle: true,
      minify: true,
      format: 'iife',
      target: 'es2022',
      logLevel: 'warning',
    });
  },
  async server() {
    await build({
      ...forNode,
      ...bundleOwn,
      entryPoints: ['cli', 'index', 'rewriting/rewriting-thread', 'drive/sharing-thread'].map((name) =>
        path(`packages/server/src/${name}.ts`),
      ),
      entryNames: '[name]',
      outdir: path('packages/server/dist'),
      sourcemap: true,
      logLevel: 'warning',
    });
  },
  async demo() {
    rmSync(path('packages/demo/dist'), { recursive: true, force: true });
    await build({
      ...forNode,
      entryPoints: [
        path('packages/demo/src/server/main.ts'),
        path('packages/demo/src/server/desk-server.ts'),
      ],
      outdir: path('packages/demo/dist'),
      logLevel: 'warning',
    });
    await build({
      ...forNode,
      ...bundleOwn,
      entryPoints: [path('packages/demo/src/phone/main.ts')],
      outfile: path('packages/demo/dist/phone.js'),
      logLevel: 'warning',
    });
    const bundles = [
      { from: 'main.ts', to: 'desk.js', format: 'esm' },
      { from: 'fares/main.ts', to: 'fares.js', format: 'iife' },
    ];
    for (const { from, to, format } of bundles) {
      await build({
        entryPoints: [path(`packages/demo/src/desk/${from}`)],
        outfile: path(`packages/demo/dist/desk/${to}`),
        bundle: true,
        minify: true,
        sourcemap: true,
        format,
        target: 'es2022',
        logLevel: 'warning',
      });
    }
    mkdirSync(path('packages/demo/dist/desk'), { recursive: true });
    for (const file of ['index.html', 'desk.css']) {
      cpSync(path(`packages/demo/src/desk/${file}`), path(`packages/demo/dist/desk/${file}`));
    }
  },
  async app() {
    const result = spawnSync('npx', ['ng', 'build'], {
      cwd: path('packages/app'),
      stdio: 'inherit',
      env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
    });
    if (result.status !== 0) throw new Error('the interface could not be built');
  },
};

const chosen = process.argv.slice(2);
for (const name of chosen.length > 0 ? chosen : Object.keys(parts)) await parts[name]();
