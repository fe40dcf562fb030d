import { readFile } from 'node:fs/promises';
import { BadStepsError, keptSteps, readSteps, type Recording, type Step } from '@nettle-patch/core';
import { FileError, readRecordingFile } from '../commands/read-recording';

/**
 * The steps by which a recording can be made again.
 * @throws FileError when it holds none
 */
export function stepsOf(recording: Recording, path: string): readonly Step[] {
  try {
    const kept = keptSteps(recording);
    if (kept !== undefined) return kept.steps;
  } catch (error) {
    if (error instanceof BadStepsError) throw new FileError(`${path}: ${error.message}`);
    throw error;
  }
  throw new FileError(`${path}: no steps were kept in it, so it cannot be done again.`);
}

/**
 * Reads a file of steps, or the steps of a recording.
 * @throws BadStepsError, FileError
 */
export async function readStepsFile(path: string): Promise<readonly Step[]> {
  if (/\.jsonl(\.gz)?$/.test(path)) {
    const { recording } = await readRecordingFile(path, () => undefined);
    return stepsOf(recording, path);
  }
  try {
    return readSteps(await readFile(path, 'utf8'));
  } catch (error) {
    if (error instanceof BadStepsError) throw new BadStepsError(`${path}: ${error.message}`);
    throw new FileError(`${path} could not be read: ${(error as Error).message}`);
  }
}
