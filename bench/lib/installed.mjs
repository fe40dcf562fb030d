/** What benchmarks install from the registry, in temporary folders of their own. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/**
 * Copies a folder that holds a package.json and installs what that asks for, once for each text of it.
 * @returns the folder it is in
 */
export function installed(from) {
  const name = createHash('sha256')
    .update(readFileSync(join(from, 'package.json')))
    .digest('hex')
    .slice(0, 12);
  const folder = join(tmpdir(), `nettle-patch-bench-${name}`);
  cpSync(from, folder, { recursive: true });
  if (existsSync(join(folder, 'done'))) return folder;
  execFileSync('npm', ['install', '--no-audit', '--no-fund', '--ignore-scripts'], {
    cwd: folder,
    stdio: 'inherit',
  });
  writeFileSync(join(folder, 'done'), '');
  return folder;
}
