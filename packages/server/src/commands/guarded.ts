import type { Recording } from '@nettle-patch/core';
import { Output } from './output';
import { FileError, noticeText, readRecordingFile } from './read-recording';
import { say } from './say';

/** How commands that read recordings end, for scripts that call them. */
export const EXIT = { done: 0, exceeded: 1, unusable: 2 } as const;

export const EXIT_HELP = `
Exit codes: ${EXIT.done} done; ${EXIT.unusable} a file or an argument cannot be used.`;

export const JUNIT_HELP = 'write it also as a test report in XML, for a build server';

/** Runs a command; a file that cannot be used ends it with a message. */
export function guarded<Args extends unknown[]>(run: (output: Output, ...args: Args) => Promise<void>) {
  return async (...args: Args): Promise<void> => {
    try {
      await run(new Output(process.stdout), ...args);
    } catch (error) {
      if (!(error instanceof FileError)) throw error;
      say(error.message);
      process.exitCode = EXIT.unusable;
    }
  };
}

/** Reads a recording; what was lost of it is said. @throws FileError */
export async function open(path: string): Promise<Recording> {
  const { recording, notices } = await readRecordingFile(path, say);
  for (const notice of notices) say(noticeText(path, notice));
  return recording;
}

export async function openAll(files: readonly string[]): Promise<Recording[]> {
  const all: Recording[] = [];
  for (const file of files) all.push(await open(file));
  return all;
}
