const NEWLINE = 10;
const CARRIAGE_RETURN = 13;

/** Longest line that is read; a longer one is damage, and reading it would need unbounded memory. */
export const MAX_LINE_BYTES = 64 * 1024 * 1024;

/** Cuts a stream of bytes into lines, whatever the boundaries of the pieces it comes in. */
export class LineReader {
  #rest: Uint8Array[] = [];
  #restLength = 0;

  /** @param take is called with the bytes of each complete line, without its line end. */
  constructor(private readonly take: (line: Uint8Array) => void) {}

  /** Takes in the next piece. The piece must not change afterwards. */
  push(piece: Uint8Array): void {
    let from = 0;
    for (let at = piece.indexOf(NEWLINE); at >= 0; at = piece.indexOf(NEWLINE, from)) {
      this.#emit(piece.subarray(from, at));
      from = at + 1;
    }
    if (from < piece.length) {
      this.#rest.push(piece.subarray(from));
      this.#restLength += piece.length - from;
      if (this.#restLength > MAX_LINE_BYTES)
        throw new RangeError(`a line is longer than ${MAX_LINE_BYTES} bytes`);
    }
  }

  /** Bytes after the last line end, if any. */
  rest(): Uint8Array {
    return this.#join(new Uint8Array(0));
  }

  #emit(tail: Uint8Array): void {
    const line = this.#restLength === 0 ? tail : this.#join(tail);
    this.#rest = [];
    this.#restLength = 0;
    const end = line.length - (line.at(-1) === CARRIAGE_RETURN ? 1 : 0);
    this.take(line.subarray(0, end));
  }

  #join(tail: Uint8Array): Uint8Array {
    const whole = new Uint8Array(this.#restLength + tail.length);
    let at = 0;
    for (const piece of this.#rest) {
      whole.set(piece, at);
      at += piece.length;
    }
    whole.set(tail, at);
    return whole;
  }
}
