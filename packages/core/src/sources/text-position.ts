import { firstIndex } from '../statistics/search';

/** A place in a text: line and column from 1, columns in UTF-16 units. */
export interface TextPosition {
  readonly line: number;
  readonly column: number;
}

/** Turns offsets of a text into lines and columns, and back. */
export class LineIndex {
  readonly #starts: number[] = [0];

  constructor(private readonly text: string) {
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) this.#starts.push(at + 1);
  }

  /** How many lines there are. */
  get count(): number {
    return this.#starts.length;
  }

  offset(position: TextPosition): number {
    return (this.#starts[position.line - 1] ?? 0) + position.column - 1;
  }

  /** A line of the text, without its end; empty behind the last one. @param line from 1 */
  lineOf(line: number): string {
    const start = this.#starts[line - 1];
    return start === undefined
      ? ''
      : this.text.slice(start, (this.#starts[line] ?? this.text.length + 1) - 1);
  }

  position(offset: number): TextPosition {
    const next = firstIndex(this.#starts.length, (at) => this.#starts[at]! > offset);
    const line = Math.max(1, next);
    return { line, column: offset - this.#starts[line - 1]! + 1 };
  }
}
