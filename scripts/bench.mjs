/** `npm run bench -- core [--json]`: runs a benchmark of the folder bench/ on what is built. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fail, prepare, root, run } from './lib/prepare.mjs';

const [name = 'core', ...options] = process.argv.slice(2);
const file = join(root, 'bench', `${name}.mjs`);
if (!existsSync(file)) fail(`There is no benchmark "${name}". There are: core, interface, recorder.`);
prepare();
process.exitCode = run(process.execPath, [file, ...options]);
