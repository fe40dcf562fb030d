import { crc32 } from './crc32';

const PREFIX = '{"kind":"check","crc32":"';
const SUFFIX = '"}';
const NEWLINE = Uint8Array.of(10);

/** The line that vouches for all bytes since the check line before it (or since the start of the file). */
export function checkLine(crc: number): string {
  return `${PREFIX}${crc.toString(16).padStart(8, '0')}${SUFFIX}`;
}

/** Whether a line is meant as a check line, if not necessarily an intact one. */
export function isCheckLine(line: string): boolean {
  return line.startsWith('{"kind":"check"');
}

/** Sums up lines as they pass, each with its line end, and starts anew at every check line. */
export class RunningCheck {
  #crc = 0;

  add(lineBytes: Uint8Array): void {
    this.#crc = crc32(NEWLINE, crc32(lineBytes, this.#crc));
  }

  /** The check line for what was added since the last call; the sum begins again. */
  take(): string {
    const line = checkLine(this.#crc);
    this.#crc = 0;
    return line;
  }
}
