const NEWLINE = 10;
const CARRIAGE_RETURN = 13;

/** Longest line that is read; a longer one is damage, and reading it would need unbounded memory. */
export const MAX_LINE_BYTES = 64 * 1024 * 1024;
/** Lines are turned into text together, up to about so many bytes at once. */
const BLOCK_BYTES = 16 * 1024;

/** Where the bytes of a line are. */
export interface LineBytes {
  readonly bytes: Uint8Array;
  readonly from: number;
  /** First place after the line, without its line end. */
  readonly to: number;
}

/** Cuts a stream of bytes in UTF-8 into lines, whatever the boundaries of the pieces it comes in. */
export class LineReader {
  readonly #text = new TextDecoder('utf-8', { fatal: false });
  #rest: Uint8Array[] = [];
  #restLength = 0;

  /** @param take is called with each complete line, without its line end */
  constructor(private readonly take: (line: string, at: LineBytes) => void) {}

  /** Takes in the next piece. The piece must not change afterwards. */
  push(piece: Uint8Array): void {
    let from = this.#restLength === 0 ? 0 : this.#endRest(piece);
    while (from < piece.length) {
      let last = piece.lastIndexOf(NEWLINE, from + BLOCK_BYTES - 1);
      if (last < from) last = piece.indexOf(NEWLINE, from + BLOCK_BYTES);
      if (last < 0) break;
      this.#block(piece, from, last);
      from = last + 1;
    }
    if (from < piece.length) this.#keep(piece.subarray(from));
  }

  /** The line after the last line end; undefined where there is nothing. */
  rest(): { readonly line: string; readonly at: LineBytes } | undefined {
    if (this.#restLength === 0) return undefined;
    const bytes = this.#join(new Uint8Array(0));
    return { line: this.#text.decode(bytes), at: { bytes, from: 0, to: bytes.length } };
  }

  /** Ends the line that began in earlier pieces. @returns the first place after it */
  #endRest(piece: Uint8Array): number {
    const end = piece.indexOf(NEWLINE);
    if (end < 0) return 0;
    const line = this.#join(piece.subarray(0, end + 1));
    this.#rest = [];
    this.#restLength = 0;
    this.#block(line, 0, line.length - 1);
    return end + 1;
  }

  /** Takes whole lines, of which the last ends at `last`. No byte of a longer character looks like a line end. */
  #block(bytes: Uint8Array, first: number, last: number): void {
    const text = this.#text.decode(bytes.subarray(first, last + 1));
    let from = first;
    let textFrom = 0;
    while (from <= last) {
      const end = bytes.indexOf(NEWLINE, from);
      const textEnd = text.indexOf('\n', textFrom);
      const returns = end > from && bytes[end - 1] === CARRIAGE_RETURN ? 1 : 0;
      this.take(text.slice(textFrom, textEnd - returns), { bytes, from, to: end - returns });
      from = end + 1;
      textFrom = textEnd + 1;
    }
  }

  #keep(rest: Uint8Array): void {
    this.#rest.push(rest);
    this.#restLength += rest.length;
    if (this.#restLength > MAX_LINE_BYTES)
      throw new RangeError(`a line is longer than ${MAX_LINE_BYTES} bytes`);
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
