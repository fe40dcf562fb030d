import { randomUUID } from 'node:crypto';
import { styleText } from 'node:util';
import { printable } from '../printable';

/** Longest line on a terminal that tells no width. */
const USUAL_WIDTH = 100;

type Style = Parameters<typeof styleText>[0];

const ESCAPE = '\u001b';
/** Stands for the escape of a style of ours until a line is written; nobody else can know it. */
const OWN_ESCAPE = `{${randomUUID()}}`;

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
    return this.colours
      ? styleText(style, printable(text), { validateStream: false }).replaceAll(ESCAPE, OWN_ESCAPE)
      : text;
  }

  /** Writes one line; control characters in it are shown and not sent. */
  line(text = ''): void {
    this.stream.write(`${printable(text).replaceAll(OWN_ESCAPE, ESCAPE)}\n`);
  }

  /** Writes JSON, in which a control character may be written by its number (RFC 8259, section 7). */
  json(value: object): void {
    this.stream.write(`${JSON.stringify(value, null, 2).split('\n').map(printable).join('\n')}\n`);
  }

  /** Writes lines of a file as they are, but to a terminal without control characters. */
  data(text: string): void {
    if (this.stream.isTTY) for (const line of text.split('\n')) this.line(line);
    else this.stream.write(`${text}\n`);
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
