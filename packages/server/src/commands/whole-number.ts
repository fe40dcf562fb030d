import { InvalidArgumentError } from 'commander';
import { MAX_PORT } from '../listen';

/** Reads an argument that is a whole number from 0 on. */
export function wholeNumber(most: number): (text: string) => number {
  return (text) => {
    const value = Number(text);
    if (text.trim() === '' || !Number.isInteger(value) || value < 0 || value > most) {
      throw new InvalidArgumentError(`Expected a whole number from 0 to ${most}.`);
    }
    return value;
  };
}

/** Reads an argument that is the number of a port. */
export const portNumber = wholeNumber(MAX_PORT);
