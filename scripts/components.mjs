/** `npm run components [FILE]`: compiles the components with their tests and runs these; writes results to FILE. */
import { join } from 'node:path';
import { root, run } from './lib/prepare.mjs';

const [file] = process.argv.slice(2);
const report = file === undefined ? [] : ['--reporters', 'json', '--output-file', join(root, file)];
const status = run('npx', ['ng', 'test', '--reporters', 'default', ...report], {
  cwd: join(root, 'packages/app'),
  env: { NG_CLI_ANALYTICS: 'false' },
});
process.exitCode = status;
