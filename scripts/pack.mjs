/**
 * Makes the package that others install: `npm run pack -- --out DIR`. In it lie the parts as in the project, each built,
 * and the core with its types; what it depends on is what the built files import.
 */
import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { fail, prepare, root, run } from './lib/prepare.mjs';

const { values } = parseArgs({ options: { out: { type: 'string', default: '.' } } });
prepare();
const { build } = await import('esbuild');

const readJson = (path) => JSON.parse(readFileSync(join(root, path), 'utf8'));
const staging = join(root, '.cache', 'package');
const lib = join(staging, 'lib');
rmSync(staging, { recursive: true, force: true });
mkdirSync(lib, { recursive: true });

const DOCUMENTS = [
  'build-server.md',
  'capture.md',
  'config.schema.json',
  'protocol.md',
  'recording-format.md',
  'recording.schema.json',
  'reference-emitter.mjs',
  'reports.md',
  'settings.md',
  'steps.md',
  'without-proxy.md',
];

/** Parts as they are built, and where the server looks for them. */
const PARTS = [
  'server/bin/nettle-patch.js',
  'server/dist',
  'recorder/dist',
  'trial/dist',
  'recorder/module.d.ts',
  'app/dist/browser',
  'demo/dist/phone.js',
];
for (const part of PARTS) {
  cpSync(join(root, 'packages', part), join(lib, part), {
    recursive: true,
    filter: (path) => !path.endsWith('.map'),
  });
}
for (const file of ['LICENSE', 'SECURITY.md', ...DOCUMENTS.map((name) => `docs/${name}`)]) {
  cpSync(join(root, file), join(staging, file));
}
cpSync(join(root, 'docs/package.md'), join(staging, 'README.md'));

const forNode = { bundle: true, platform: 'node', format: 'esm', target: 'node20', packages: 'external' };
const alias = Object.fromEntries(
  ['core', 'instrument'].map((name) => [
    `@nettle-patch/${name}`,
    join(root, `packages/${name}/src/index.ts`),
  ]),
);
await build({
  ...forNode,
  platform: 'neutral',
  entryPoints: [join(root, 'packages/core/src/public.ts')],
  outfile: join(lib, 'core/index.js'),
});

/** Declarations of a package, each file with the extension that Node asks of what it imports. */
function declare(part, outDir) {
  const flags = ['--declaration', '--emitDeclarationOnly', '--noEmit', 'false', '--outDir', outDir];
  const status = run('npx', ['tsc', '-p', `packages/${part}`, '--rootDir', root, ...flags]);
  if (status !== 0) fail('The types could not be written; see above.');
  const folder = join(outDir, 'packages', part, 'src');
  for (const name of readdirSync(folder, { recursive: true })) {
    if (!name.endsWith('.d.ts')) continue;
    const file = join(folder, name);
    const text = readFileSync(file, 'utf8');
    const named = text
      .replace(/(from|import\()(\s*['"])(\.{1,2}\/[^'"]+)(['"])/g, '$1$2$3.js$4')
      .replace(/(import\(['"]\.{1,2})(['"])/g, '$1/index.js$2');
    writeFileSync(file, named);
  }
  return folder;
}
const types = join(root, '.cache', 'types');
rmSync(types, { recursive: true, force: true });
cpSync(declare('core', types), join(lib, 'core/types'), { recursive: true });

/** What built files import from outside of themselves, by name of package. */
async function imported() {
  const { metafile } = await build({
    ...forNode,
    alias,
    entryPoints: [
      'server/dist/cli.js',
      'server/dist/index.js',
      'server/dist/rewriting-thread.js',
      'demo/dist/phone.js',
      'core/index.js',
    ].map((file) => join(lib, file)),
    outdir: join(root, '.cache', 'unused'),
    write: false,
    metafile: true,
  });
  const names = Object.values(metafile.outputs).flatMap(({ imports }) => imports.map(({ path }) => path));
  const packages = names
    .filter((name) => !name.startsWith('node:'))
    .map((name) =>
      name
        .split('/')
        .slice(0, name.startsWith('@') ? 2 : 1)
        .join('/'),
    );
  return [...new Set(packages)].sort();
}

const { version, license, engines } = readJson('package.json');
const { name, description, keywords, dependencies: wanted } = readJson('packages/server/package.json');
const used = await imported();
const unnamed = used.filter((one) => wanted[one] === undefined);
if (unnamed.length > 0)
  fail(`packages/server/package.json does not name what the package uses: ${unnamed.join(', ')}`);
const manifest = {
  name,
  version,
  description,
  keywords,
  license,
  engines,
  type: 'module',
  bin: { 'nettle-patch': 'lib/server/bin/nettle-patch.js' },
  exports: {
    '.': { types: './lib/core/types/public.d.ts', default: './lib/core/index.js' },
    './recorder': { types: './lib/recorder/module.d.ts', default: './lib/recorder/dist/module.js' },
    './recording.schema.json': './docs/recording.schema.json',
    './package.json': './package.json',
  },
  files: ['lib', 'docs', 'LICENSE', 'README.md', 'SECURITY.md'],
  sideEffects: false,
  dependencies: Object.fromEntries(used.map((one) => [one, wanted[one]])),
};
writeFileSync(join(staging, 'package.json'), `${JSON.stringify(manifest, null, 2)}\n`);

const out = resolve(values.out);
mkdirSync(out, { recursive: true });
const packed = spawnSync('npm', ['pack', '--json', '--pack-destination', out], {
  cwd: staging,
  encoding: 'utf8',
});
if (packed.status !== 0) fail(packed.stderr);
const [{ filename, size, unpackedSize, entryCount }] = JSON.parse(packed.stdout);
const mb = (bytes) => `${(bytes / 1e6).toFixed(1)} MB`;
console.log(`${join(out, filename)}: ${mb(size)}, ${mb(unpackedSize)} in ${entryCount} files`);
