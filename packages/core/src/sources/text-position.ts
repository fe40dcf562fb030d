/** A place in a text: line and column from 1, columns in UTF-16 units. */
export interface TextPosition {
  readonly line: number;
  readonly column: number;
}

/** Turns offsets of a text into lines and columns, and back. */
export class LineIndex {
  readonly #starts: number[] = [0];

  constructor(text: string) {
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) this.#starts.push(at + 1);
  }

  offset(position: TextPosition): number {
    return (this.#starts[position.line - 1] ?? 0) + position.column - 1;
  }

  position(offset: number): TextPosition {
    let low = 0;
    let high = this.#starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >>> 1;
      if (this.#starts[middle]! <= offset) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: offset - this.#starts[low]! + 1 };
  }
}
