import { createHash } from 'node:crypto';
import { readFile, readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { builtPath } from '../assets';
import { cachePath, writeWhole } from '../user-cache';

/** A rewritten script as it is kept on disk. */
export interface CachedScript {
  readonly firstId: number;
  readonly idCount: number;
  readonly code: string;
}

/** Rewriting a smaller script takes no longer than looking for it. */
const MIN_LENGTH = 256 * 1024;
const MAX_BYTES = 512 * 2 ** 20;

/** Keeps rewritten scripts on disk by their content, for the next run; without a disk to write to, none. */
export class ScriptCache {
  #version: Promise<string> | undefined;

  constructor(private readonly folder = cachePath('scripts')) {}

  /** @param key of the content; undefined is given where nothing is kept of it */
  async find(key: string, length: number): Promise<CachedScript | undefined> {
    if (length < MIN_LENGTH) return undefined;
    try {
      const file = await this.#file(key);
      const text = await readFile(file, 'utf8');
      const end = text.indexOf('\n');
      const { firstId, idCount } = JSON.parse(text.slice(0, end)) as CachedScript;
      const now = new Date();
      await utimes(file, now, now);
      return { firstId, idCount, code: text.slice(end + 1) };
    } catch {
      return undefined;
    }
  }

  async keep(key: string, length: number, { firstId, idCount, code }: CachedScript): Promise<void> {
    if (length < MIN_LENGTH) return;
    try {
      await writeWhole(await this.#file(key), `${JSON.stringify({ firstId, idCount })}\n${code}`);
      await this.#makeRoom();
    } catch {
      // What cannot be kept is rewritten again.
    }
  }

  /** Another version of the rewriter makes other code of the same text. */
  async #file(key: string): Promise<string> {
    this.#version ??= readFile(builtPath('rewriting')).then((bytes) =>
      createHash('sha256').update(bytes).digest('hex').slice(0, 16),
    );
    return join(this.folder, `${createHash('sha256').update(key).digest('hex')}-${await this.#version}`);
  }

  /** Deletes what was not asked for longest. */
  async #makeRoom(): Promise<void> {
    const files = await Promise.all(
      (await readdir(this.folder)).map(async (name) => {
        const path = join(this.folder, name);
        const { size, mtimeMs } = await stat(path);
        return { path, size, mtimeMs };
      }),
    );
    files.sort((a, b) => b.mtimeMs - a.mtimeMs);
    let bytes = 0;
    for (const { path, size } of files) {
      bytes += size;
      if (bytes > MAX_BYTES) await rm(path, { force: true });
    }
  }
}
