import { mkdir, rename, writeFile } from 'node:fs/promises';
import { homedir } from 'node:os';
import { dirname, join } from 'node:path';

/** Nobody else may put there what is served or opened from it. */
const FOLDER_MODE = 0o700;
const FILE_MODE = 0o600;

/** Where something is kept for this person's next run (XDG Base Directory). */
export function cachePath(name: string): string {
  return join(process.env['XDG_CACHE_HOME'] ?? join(homedir(), '.cache'), 'nettle-patch', name);
}

/** Writes a file that is there whole or not at all, with the folder it is in. */
export async function writeWhole(file: string, text: string): Promise<void> {
  await mkdir(dirname(file), { recursive: true, mode: FOLDER_MODE });
  const unfinished = `${file}.${process.pid}`;
  await writeFile(unfinished, text, { mode: FILE_MODE });
  await rename(unfinished, file);
}
