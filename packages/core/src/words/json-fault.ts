/**
 * From where on a text is no JSON, to follow the words that say so: " from line 3, column 7 on", or nothing where the engine
 * tells no place. It repeats none of the text, as engines do: what a file holds may be private, or no text at all.
 * @param error as `JSON.parse` threw it
 */
export function jsonFault({ message }: SyntaxError, text: string): string {
  const lineColumn = /line (\d+) column (\d+)/.exec(message);
  if (lineColumn !== null) return ` from line ${lineColumn[1]}, column ${lineColumn[2]} on`;
  const position = /position (\d+)/.exec(message)?.[1];
  if (position !== undefined) {
    const before = text.slice(0, Number(position)).split('\n');
    return ` from line ${before.length}, column ${before.at(-1)!.length + 1} on`;
  }
  return /\bend\b|EOF/i.test(message) ? ': it ends too early' : '';
}
