/** Checks the types of every package, each by its own rules, and those of the unit tests. */
import { run } from './lib/prepare.mjs';

const projects = ['core', 'instrument', 'recorder', 'server', 'demo', 'app', 'app/tsconfig.worker.json'];
const paths = [...projects.map((project) => `packages/${project}`), 'tsconfig.tests.json'];
const failed = paths.filter((path) => run('npx', ['tsc', '--noEmit', '-p', path]) !== 0);
if (failed.length > 0) console.error(`Types are wrong in: ${failed.join(', ')}`);
process.exitCode = failed.length > 0 ? 1 : 0;
