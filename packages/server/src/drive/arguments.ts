import { SLOWINGS } from '@nettle-patch/core';
import { CONFIG_NAME } from '../start/config';

/** Thrown for arguments that cannot be used. */
export class BadArgumentError extends Error {
  override readonly name = 'BadArgumentError';
}

/** @param what it is, for the message. @throws BadArgumentError */
export function urlFrom(text: string, what: string): URL {
  if (!URL.canParse(text) || !/^https?:$/.test(new URL(text).protocol)) {
    throw new BadArgumentError(
      `${what} "${text}" is no address. Expected something like http://localhost:3000/.`,
    );
  }
  return new URL(text);
}

/** A setting that must be given, on the command line or by the project. @throws BadArgumentError */
export function needed(value: string | undefined, what: string): string {
  if (value !== undefined) return value;
  throw new BadArgumentError(`There is no ${what}: give one, or name it in ${CONFIG_NAME}.`);
}

export const SLOW_WORDS =
  'have the browser run 2, 4 or 6 times slower; by how much it is, is measured in the page and kept in the recording';

/** @throws BadArgumentError */
export function slowFrom(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const factor = SLOWINGS.find((one) => one === Number(text));
  if (factor !== undefined) return factor;
  throw new BadArgumentError(`--slow takes ${SLOWINGS.join(', ')}: times slower; got "${text}".`);
}

/** A number of times, from 1 on. @param flag that it was given by, for the message. @throws BadArgumentError */
export function timesFrom(text: string, flag: string, most: number): number {
  const times = Number(text);
  if (!Number.isInteger(times) || times < 1 || times > most)
    throw new BadArgumentError(`${flag} takes a whole number from 1 to ${most}, got "${text}".`);
  return times;
}
