/** Checks the types of every package, each by its own rules, and those of the unit tests; two of them at a time. */
import { spawn } from 'node:child_process';
import { root } from './lib/prepare.mjs';

const AT_A_TIME = 2;
const projects = [
  'core',
  'instrument',
  'recorder',
  'trial',
  'server',
  'demo',
  'app',
  'app/tsconfig.worker.json',
];
const waiting = [...projects.map((project) => `packages/${project}`), 'tsconfig.tests.json'];
const failed = [];

async function checkNext() {
  for (let path = waiting.shift(); path !== undefined; path = waiting.shift()) {
    const check = spawn('npx', ['tsc', '--noEmit', '-p', path], { cwd: root, stdio: 'inherit' });
    const status = await new Promise((resolve) => check.on('close', resolve).on('error', () => resolve(1)));
    if (status !== 0) failed.push(path);
  }
}

await Promise.all(Array.from({ length: AT_A_TIME }, checkNext));
if (failed.length > 0) console.error(`Types are wrong in: ${failed.join(', ')}`);
process.exitCode = failed.length > 0 ? 1 : 0;
