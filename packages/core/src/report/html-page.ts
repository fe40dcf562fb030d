import { escapeXml } from './escape-xml';

const STYLE = `
body { margin: 0 auto; max-width: 1000px; padding: 24px; background: #fbf9f4; color: #1f2a26; font: 16px/1.5 'Atkinson Hyperlegible', 'DejaVu Sans', sans-serif }
h1 { font-size: 24px; margin: 0 } h2 { font-size: 18px; margin: 32px 0 8px }
table { border-collapse: collapse; width: 100% } th, td { text-align: left; padding: 4px 10px 4px 0; border-bottom: 1px solid #ddd9cf; vertical-align: top }
.n { text-align: right; font-family: 'IBM Plex Mono', 'DejaVu Sans Mono', monospace; white-space: nowrap } .c { font-family: 'IBM Plex Mono', 'DejaVu Sans Mono', monospace; white-space: pre } .w { color: #a3154a } .s { color: #56625d }
svg { max-width: 100%; height: auto }
@media print { body { max-width: none; padding: 0; background: none } h2, tr, svg { break-inside: avoid } h2 { break-after: avoid } }`;

/** A cell's words, and whether it is a figure (n), a warning (w), softer (s) or code (c). */
export type Cell = readonly [words: string, look?: 'n' | 'w' | 's' | 'c' | undefined];

/** A table as HTML; words are escaped. */
export function table(head: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const cell = ([words, look]: Cell) =>
    `<td${look === undefined ? '' : ` class="${look}"`}>${escapeXml(words)}</td>`;
  const isFigure = (at: number) => rows.length > 0 && rows.every((row) => row[at]?.[1] === 'n');
  const heading = (words: string, at: number) =>
    `<th scope="col"${isFigure(at) ? ' class="n"' : ''}>${escapeXml(words)}</th>`;
  return [
    '<table>',
    `<thead><tr>${head.map(heading).join('')}</tr></thead>`,
    '<tbody>',
    ...rows.map((row) => `<tr>${row.map(cell).join('')}</tr>`),
    '</tbody></table>',
  ].join('\n');
}

/**
 * One HTML page that refers to nothing outside of itself and runs no script, for people who have no tool at hand.
 * @param parts its content below the title, as HTML
 */
export function htmlPage(title: string, parts: readonly string[]): string {
  return [
    '<!doctype html>',
    '<html lang="en"><head><meta charset="utf-8">',
    `<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'">`,
    `<meta name="viewport" content="width=device-width"><title>${escapeXml(title)}</title><style>${STYLE}</style></head><body>`,
    `<h1>${escapeXml(title)}</h1>`,
    ...parts,
    '</body></html>',
    '',
  ].join('\n');
}
