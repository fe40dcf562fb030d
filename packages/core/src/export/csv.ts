/** A table as CSV (RFC 4180), its first line the names of the columns. */
export function* csvLines(
  columns: readonly string[],
  rows: Iterable<readonly (string | number | null)[]>,
): Generator<string> {
  yield columns.map(csvField).join(',');
  for (const row of rows) yield row.map(csvField).join(',');
}

/** Texts that a spreadsheet would take for a formula are led by an apostrophe. */
function csvField(value: string | number | null): string {
  if (value === null) return '';
  if (typeof value === 'number') return String(value);
  const text = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
