/** Before the unit tests: builds the server, whose rewriting threads run from the built file. */
import { spawnSync } from 'node:child_process';
import { root } from './prepare.mjs';

export function setup() {
  const { status } = spawnSync(process.execPath, ['scripts/build.mjs', 'server'], {
    cwd: root,
    stdio: 'inherit',
  });
  if (status !== 0) throw new Error('The server could not be built; see above.');
}
