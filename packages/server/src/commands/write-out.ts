import { writeFile } from 'node:fs/promises';
import { gzipSync } from 'node:zlib';
import { FileError } from './read-recording';

/**
 * Writes a file, compressed where its name says so.
 * @throws FileError naming it, where it cannot be written
 */
export async function writeOut(out: string, text: string): Promise<void> {
  try {
    await writeFile(out, out.endsWith('.gz') ? gzipSync(text) : text);
  } catch (error) {
    throw new FileError(`${out} could not be written: ${(error as Error).message}`);
  }
}
