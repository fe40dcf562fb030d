/** Checks the types of every package, each by its own rules. */
import { run } from './lib/prepare.mjs';

const projects = ['core', 'instrument', 'recorder', 'server', 'demo', 'app', 'app/tsconfig.worker.json'];
const failed = projects.filter(
  (project) => run('npx', ['tsc', '--noEmit', '-p', `packages/${project}`]) !== 0,
);
if (failed.length > 0) console.error(`Types are wrong in: ${failed.join(', ')}`);
process.exitCode = failed.length > 0 ? 1 : 0;
