/**
 * What rewriting breaks, which is to be nothing: programs for testing parsers, every script of this project's own
 * dependencies, and packages from the registry whose own tests are run as they are and rewritten. Prints counts, and
 * each that differs; and how quickly large bundles get through.
 * `npm run bench -- rewriting [bundles] [programs] [dependencies] [packages] [--json]`
 */
import { execFile } from 'node:child_process';
import { cpSync, existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { UnrewritableError, parseScript, problemOf, rewriteScript } from '../packages/server/dist/index.js';
import { installed } from './lib/installed.mjs';
import { largeBundles } from './lib/large-bundle.mjs';
import { asJson, say } from './lib/options.mjs';

const path = (relative) => fileURLToPath(new URL(relative, import.meta.url));
const run = promisify(execFile);
const MAX_TEST_MS = 60_000;
const FIRST_ID = 2 ** 20;

function* scriptsBelow(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const file = join(folder, entry.name);
    if (entry.isDirectory()) yield* scriptsBelow(file);
    else if (entry.isFile() && /\.[cm]?js$/.test(entry.name)) yield file;
  }
}

const typeOfFolder = new Map();
function isInModules(folder) {
  let type = typeOfFolder.get(folder);
  if (type === undefined) {
    const file = join(folder, 'package.json');
    if (existsSync(file)) type = JSON.parse(readFileSync(file)).type === 'module';
    else
      type =
        folder === dirname(folder) || basename(folder) === 'node_modules'
          ? false
          : isInModules(dirname(folder));
    typeOfFolder.set(folder, type);
  }
  return type;
}

/** Whether a file is a module, as Node would tell; undefined where only its text can, as for browsers' builds. */
function isModuleFile(file) {
  if (file.endsWith('.mjs')) return true;
  if (file.endsWith('.cjs')) return false;
  return isInModules(dirname(file)) ? true : undefined;
}

function parses(text, isModule) {
  try {
    parseScript(text, isModule);
    return true;
  } catch {
    return false;
  }
}

/** Rewrites files, and counts those that pass as they are: as they are no script, or would be none any more. */
function rewriteAll(name, files, isModule, take = () => undefined) {
  const counts = { name, files: 0, bytes: 0, rewritten: 0, noScripts: 0, refused: [], ms: 0 };
  for (const file of files) {
    const text = readFileSync(file, 'utf8');
    counts.files++;
    const from = performance.now();
    try {
      const { code } = rewriteScript(text, {
        url: `/${basename(file)}`,
        firstId: FIRST_ID,
        isModule: isModule(file),
        problemOf,
      });
      counts.rewritten++;
      counts.bytes += text.length;
      counts.ms += performance.now() - from;
      take(file, code);
    } catch (error) {
      if (!(error instanceof UnrewritableError)) counts.refused.push(`${file}: ${error.stack}`);
      else if (parses(text, isModule(file))) counts.refused.push(`${file}: ${error.message}`);
      else counts.noScripts++;
    }
  }
  say(
    `${name}: ${counts.files} files, ${counts.rewritten} rewritten and parsed again (${(counts.bytes / 1000 / counts.ms).toFixed(2)} MB/s), ${counts.noScripts} that are no script by themselves, ${counts.refused.length} left alone for what rewriting would make of them`,
  );
  for (const line of counts.refused.slice(0, 20)) say(`  ${line}`);
  return counts;
}

/** The results of a file of tests: the lines that say so, and how it ended. */
async function resultsOf(folder, test, more = []) {
  const options = { cwd: folder, timeout: MAX_TEST_MS, maxBuffer: 2 ** 26 };
  try {
    const { stdout } = await run(process.execPath, [...more, test], options);
    return { code: 0, lines: resultLines(stdout) };
  } catch (error) {
    return { code: error.code ?? error.signal, lines: resultLines(error.stdout ?? '') };
  }
}
/** Results without what is another each time: dates, and how long something took. */
const resultLines = (text) =>
  text
    .split('\n')
    .filter((line) => /^\s*(not ok|ok|# tests|# pass|# fail)/.test(line))
    .map((line) => line.replace(/\w{3} \w{3} \d\d \d{4} [\d:]{8}|\d+ms/g, ''));

async function ownTests(folder) {
  const rewrittenFolder = join(folder, 'rewritten');
  rmSync(rewrittenFolder, { recursive: true, force: true });
  cpSync(join(folder, 'node_modules'), join(rewrittenFolder, 'node_modules'), { recursive: true });
  const files = [...scriptsBelow(join(rewrittenFolder, 'node_modules'))].filter(
    (file) => !file.includes('test262-parser-tests'),
  );
  const isModule = (file) => isModuleFile(file) ?? false;
  const counts = rewriteAll('packages with tests of their own', files, isModule, writeFileSync);
  const asked = Object.keys(JSON.parse(readFileSync(join(folder, 'package.json'))).dependencies);
  const packages = new Set();
  const differing = [];
  let tests = 0;
  for (const name of asked) {
    const at = join('node_modules', name);
    const testFolder = join(folder, at, 'test');
    if (!existsSync(testFolder)) continue;
    for (const file of readdirSync(testFolder).filter((one) => one.endsWith('.js'))) {
      const test = join('test', file);
      const before = await resultsOf(join(folder, at), test);
      if (before.code !== 0 || !before.lines.some((line) => line.startsWith('ok'))) continue;
      const world = ['--import', path('lib/rewritten-world.mjs')];
      const after = await resultsOf(join(rewrittenFolder, at), test, world);
      packages.add(name);
      tests += before.lines.filter((line) => /^\s*ok/.test(line)).length;
      if (JSON.stringify(after) !== JSON.stringify(before)) {
        const line = before.lines.find((one, index) => one !== after.lines[index]);
        differing.push(`${name} ${test}: ended with ${after.code}, "${line}" before`);
      }
    }
  }
  say(
    `tests of ${packages.size} packages: ${tests} results, ${differing.length} files of tests with a differing one`,
  );
  for (const line of differing) say(`  ${line}`);
  return { ...counts, packages: packages.size, tests, differing };
}

const folder = installed(path('rewriting/'));
const programs = join(folder, 'node_modules/test262-parser-tests');
const parts = {
  bundles: largeBundles,
  programs: () =>
    rewriteAll(
      'programs for testing parsers',
      ['pass', 'pass-explicit'].flatMap((part) => [...scriptsBelow(join(programs, part))]),
      (file) => file.includes('.module.'),
    ),
  dependencies: () =>
    rewriteAll('dependencies of this project', scriptsBelow(path('../node_modules')), isModuleFile),
  packages: () => ownTests(folder),
};
const asked = process.argv.slice(2).filter((word) => Object.hasOwn(parts, word));
const figures = {};
for (const name of asked.length > 0 ? asked : Object.keys(parts)) figures[name] = await parts[name]();
if (asJson) console.log(JSON.stringify(figures, null, 2));
