/** Cells and lines as text that every table program takes: tabs between cells, a line for each row. */
export function textOfRows(rows: readonly (readonly string[])[]): string {
  return rows
    .map((cells) => cells.map((cell) => cell.replaceAll(/[\t\r\n]+/g, ' ')).join('\t'))
    .map((line) => `${line}\n`)
    .join('');
}

/** What a table shows, its heads included. */
export function textOfTable(table: HTMLTableElement): string {
  return textOfRows(
    Array.from(table.rows, (row) =>
      Array.from(row.cells, (cell) => cell.textContent.replaceAll(/\s+/g, ' ').trim()),
    ),
  );
}
