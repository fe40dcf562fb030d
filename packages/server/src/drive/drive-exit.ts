import { BadStepsError, BadTrialError } from '@nettle-patch/core';
import { FileError } from '../commands/read-recording';
import { say } from '../commands/say';
import { BadAddressError } from '../apps/target-origin';
import { BadArgumentError } from './arguments';
import { BrowserError } from './browser';
import { FailedLoadError } from './loads';

/** How commands that drive a browser end where they cannot do what they were asked for. */
export const DRIVE_EXIT = { badArguments: 2, noBrowser: 3, stepFailed: 4, notRecorded: 5 } as const;

function exitCodeOf(error: unknown): number {
  const isBad = [BadStepsError, BadTrialError, BadAddressError, BadArgumentError, FileError].some(
    (bad) => error instanceof bad,
  );
  if (isBad) return DRIVE_EXIT.badArguments;
  if (error instanceof FailedLoadError) return DRIVE_EXIT.stepFailed;
  return error instanceof BrowserError ? DRIVE_EXIT.noBrowser : DRIVE_EXIT.notRecorded;
}

/** Runs a command that drives a browser; what it throws is said, and is its exit code. */
export function guardedDrive<Given extends unknown[]>(
  run: (...given: Given) => Promise<void>,
): (...given: Given) => Promise<void> {
  return async (...given) => {
    try {
      await run(...given);
    } catch (error) {
      say((error as Error).message);
      process.exitCode = exitCodeOf(error);
    }
  };
}
