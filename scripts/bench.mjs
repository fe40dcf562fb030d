/** `npm run bench -- core [--json]`: runs a benchmark of the folder bench/ on what is built. */
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fail, prepare, root, run } from './lib/prepare.mjs';

const [name = 'core', ...options] = process.argv.slice(2);
const file = join(root, 'bench', `${name}.mjs`);
if (!existsSync(file)) {
  const names = readdirSync(join(root, 'bench')).filter((one) => one.endsWith('.mjs'));
  fail(`There is no benchmark "${name}". There are: ${names.map((one) => one.slice(0, -4)).join(', ')}.`);
}
prepare();
process.exitCode = run(process.execPath, [file, ...options]);
