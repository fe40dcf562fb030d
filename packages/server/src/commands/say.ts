import { printable } from '../printable';

/** Says something to whoever runs a command, beside what it writes. */
export function say(text: string): void {
  console.error(printable(text));
}
