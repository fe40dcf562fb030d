import { readFile } from 'node:fs/promises';
import { ValidationError } from 'yup';
import { jsonFault, validationWords } from '@nettle-patch/core';
import { FileError } from './read-recording';

/**
 * Reads a file of settings.
 * @param check gives what the file holds, or throws a ValidationError
 * @throws FileError naming the file and what does not fit
 */
export async function readJson<T>(path: string, check: (given: unknown) => T): Promise<T> {
  let text: string;
  try {
    text = await readFile(path, 'utf8');
  } catch (error) {
    throw new FileError(`${path} could not be read: ${(error as Error).message}`);
  }
  try {
    return check(JSON.parse(text));
  } catch (error) {
    if (error instanceof SyntaxError) throw new FileError(`${path} is no JSON${jsonFault(error, text)}`);
    if (error instanceof ValidationError) throw new FileError(`${path}: ${validationWords(error)}`);
    throw error;
  }
}
