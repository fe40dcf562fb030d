import { crc32 } from './crc32';
import type { LineBytes } from './line-reader';

const PREFIX = '{"kind":"check","crc32":"';
const SUFFIX = '"}';
const NEWLINE = 10;
const LINE_END = Uint8Array.of(NEWLINE);

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
  /** Lines that follow each other in the same bytes and are not summed up yet. */
  #bytes: Uint8Array = new Uint8Array(0);
  #from = 0;
  #to = 0;

  /** Takes a line. Its bytes must not change before the next `take`. */
  add({ bytes, from, to }: LineBytes): void {
    if (bytes !== this.#bytes || from !== this.#to) {
      this.#sumUp();
      this.#bytes = bytes;
      this.#from = from;
    }
    this.#to = to;
    if (bytes[to] === NEWLINE) {
      this.#to++;
      return;
    }
    this.#sumUp();
    this.#crc = crc32(LINE_END, this.#crc);
  }

  /** The check line for what was added since the last call; the sum begins again. */
  take(): string {
    this.#sumUp();
    const line = checkLine(this.#crc);
    this.#crc = 0;
    return line;
  }

  #sumUp(): void {
    this.#crc = crc32(this.#bytes, this.#crc, this.#from, this.#to);
    this.#from = this.#to;
  }
}
