import { styleText } from 'node:util';

/** Longest line on a terminal that tells no width. */
const USUAL_WIDTH = 100;

type Style = Parameters<typeof styleText>[0];

/** Where a command writes: plain where it is no terminal, so that other programs can read it. */
export class Output {
  constructor(
    private readonly stream: NodeJS.WriteStream,
    private readonly colours = stream.isTTY === true && process.env['NO_COLOR'] === undefined,
  ) {}

  get width(): number {
    return this.stream.isTTY ? Math.max(40, this.stream.columns || USUAL_WIDTH) : USUAL_WIDTH;
  }

  style(style: Style, text: string): string {
    return this.colours ? styleText(style, text) : text;
  }

  line(text = ''): void {
    this.stream.write(`${text}\n`);
  }

  /** Writes words in lines no longer than the width, each led by spaces. */
  wrapped(text: string, indent = 0): void {
    const lead = ' '.repeat(indent);
    let line = '';
    for (const word of text.split(' ')) {
      if (line !== '' && indent + line.length + word.length + 1 > this.width) {
        this.line(lead + line);
        line = word;
      } else line = line === '' ? word : `${line} ${word}`;
    }
    if (line !== '') this.line(lead + line);
  }

  /** Writes a table; columns of numbers are told by their negative width and stand at the right. */
  table(rows: readonly (readonly string[])[], right: readonly boolean[], indent = 0): void {
    const widths = right.map((_, column) => Math.max(0, ...rows.map((row) => row[column]!.length)));
    for (const row of rows) {
      const cells = row.map((cell, column) =>
        right[column] ? cell.padStart(widths[column]!) : cell.padEnd(widths[column]!),
      );
      this.line((' '.repeat(indent) + cells.join('  ')).trimEnd());
    }
  }
}
