/** Gets a checkout ready to run: the right Node, what it depends on installed, everything built. Node only. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url));
const MIN_NODE = [20, 19];
const PARTS = ['core', 'instrument', 'recorder', 'trial', 'server', 'demo', 'app'];
const NOT_SOURCE = new Set(['dist', 'node_modules', '.angular']);

/** Runs a command in the project; ends the program with its words when it fails. */
export function run(command, args, options = {}) {
  const env = { ...process.env, NG_CLI_ANALYTICS: 'false', ...options.env };
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options, env });
  if (result.error) fail(`"${command}" could not be run: ${result.error.message}`);
  return result.status ?? 1;
}

export function fail(words) {
  console.error(`\n${words}\n`);
  process.exit(1);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < MIN_NODE[0] || (major === MIN_NODE[0] && minor < MIN_NODE[1])) {
    fail(`Nettle Patch needs Node ${MIN_NODE.join('.')} or newer; this is ${process.versions.node}.`);
  }
}

function* filesUnder(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) =>
    a.name < b.name ? -1 : 1,
  )) {
    if (NOT_SOURCE.has(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesUnder(path);
    else yield path;
  }
}

function hashOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths)
    hash.update(path.slice(root.length)).update('\0').update(readFileSync(path)).update('\0');
  return hash.digest('hex');
}

function isStamped(name, value) {
  const path = join(root, '.cache', name);
  return existsSync(path) && readFileSync(path, 'utf8') === value;
}

function stamp(name, value) {
  const path = join(root, '.cache', name);
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, value);
}

/**
 * Installs what package-lock.json names, unless exactly that is installed. Not by `npm ci`, which refuses a lock
 * file that lacks optional parts for systems other than the one it was made on.
 */
export function install() {
  const wanted = hashOf([join(root, 'package-lock.json')]);
  if (existsSync(join(root, 'node_modules')) && isStamped('installed', wanted)) return;
  console.log('Installing what the project depends on (once, about a minute) …');
  const args = ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'];
  if (run('npm', args) !== 0) fail('"npm install" failed; its own words above say why. Is there a network?');
  stamp('installed', wanted);
}

/** Builds all parts, unless they were built from exactly these sources. */
export function build() {
  const sources = PARTS.flatMap((part) => [...filesUnder(join(root, 'packages', part))]);
  const how = ['scripts/build.mjs', 'scripts/lib/build-recorder.mjs', 'tsconfig.base.json'];
  const wanted = hashOf([...sources, ...how.map((file) => join(root, file))]);
  const built = [
    'recorder/dist/recorder.js',
    'trial/dist/page.js',
    'server/dist/cli.js',
    'demo/dist/main.js',
    'app/dist/browser/index.html',
  ];
  const there = built.every(
    (path) => existsSync(join(root, 'packages', path)) && statSync(join(root, 'packages', path)).size > 0,
  );
  if (there && isStamped('built', wanted)) return;
  console.log('Building (about half a minute) …');
  if (run(process.execPath, ['scripts/build.mjs'], { stdio: ['ignore', 'ignore', 'inherit'] }) !== 0)
    fail('The build failed; see above.');
  stamp('built', wanted);
}

export function prepare() {
  checkNode();
  install();
  build();
}
