import { decimalText } from '../words/figures';
import { BREAKDOWN_PARTS } from '../attribution/time-breakdown';
import { BREAKDOWN_LABELS } from '../attribution/breakdown-labels';
import type { ComparedFunction } from '../compare/compare-functions';
import { escapeXml } from './escape-xml';
import type { Recording } from '../recording/recording';
import { comparisonPicture } from './comparison-picture';
import {
  UNIT_WORDS,
  changeWords,
  firmnessWords,
  isChange,
  madeWords,
  outcomeWords,
  perUnitWords,
  sideWords,
  testedWords,
  verdictWords,
} from './comparison-words';
import type { Proof } from './proof';

const MAX_FUNCTIONS = 30;

const STYLE = `
body { margin: 0 auto; max-width: 1000px; padding: 24px; background: #fbf9f4; color: #1f2a26; font: 16px/1.5 'Atkinson Hyperlegible', 'DejaVu Sans', sans-serif }
h1 { font-size: 24px; margin: 0 } h2 { font-size: 18px; margin: 32px 0 8px }
table { border-collapse: collapse; width: 100% } th, td { text-align: left; padding: 4px 10px 4px 0; border-bottom: 1px solid #ddd9cf; vertical-align: top }
.n { text-align: right; font-family: 'IBM Plex Mono', 'DejaVu Sans Mono', monospace } .w { color: #a3154a } .s { color: #56625d }
svg { max-width: 100%; height: auto }`;

type Cell = readonly [words: string, look?: 'n' | 'w' | 's' | undefined];

function table(head: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const cell = ([words, look]: Cell) =>
    `<td${look === undefined ? '' : ` class="${look}"`}>${escapeXml(words)}</td>`;
  return [
    '<table>',
    `<thead><tr>${head.map((words) => `<th scope="col">${escapeXml(words)}</th>`).join('')}</tr></thead>`,
    '<tbody>',
    ...rows.map((row) => `<tr>${row.map(cell).join('')}</tr>`),
    '</tbody></table>',
  ].join('\n');
}

const ms = (value: number | undefined): Cell => [
  value === undefined ? '–' : `${decimalText(value, 1)} ms`,
  'n',
];

function functionRows(functions: readonly ComparedFunction[]): Cell[][] {
  return functions
    .filter(({ change }) => isChange(change))
    .slice(0, MAX_FUNCTIONS)
    .map(({ name, place, unit, change, before, after }) => [
      [name],
      [place, 's'],
      [perUnitWords(before), 'n'],
      [perUnitWords(after), 'n'],
      [UNIT_WORDS[unit]],
      [change],
    ]);
}

/**
 * A comparison as one HTML page that refers to nothing outside of itself and runs no script, for people who have no
 * tool at hand.
 */
export function comparisonPage(proof: Proof): string {
  const { before, after, comparison, anatomies } = proof;
  const title = `${after.header.title || after.header.target.title}: before and after`;
  const made = (recording: Recording) =>
    `${recording.header.startedAt.slice(0, 10)} (${madeWords(recording)})`;
  const functions = functionRows(comparison.functions);
  return [
    '<!doctype html>',
    '<html lang="en"><head><meta charset="utf-8">',
    `<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'">`,
    `<meta name="viewport" content="width=device-width"><title>${escapeXml(title)}</title><style>${STYLE}</style></head><body>`,
    `<h1>${escapeXml(title)}</h1>`,
    `<p>${escapeXml(outcomeWords(comparison.series))}</p>`,
    `<p class="s">Recorded ${escapeXml(made(before))} and ${escapeXml(made(after))}. Delays are from the input to the screen.</p>`,
    `<p class="s">${escapeXml([testedWords(comparison), ...comparison.caveats].join(' '))}</p>`,
    ...comparison.warnings.map((warning) => `<p class="w">${escapeXml(warning)}</p>`),
    comparisonPicture(proof),
    '<h2>What was done</h2>',
    table(
      ['what', 'before', 'after', 'verdict', 'difference', 'how firm'],
      comparison.series.map((one) => [
        [one.label],
        [sideWords(one.before)],
        [sideWords(one.after)],
        [verdictWords(one.verdict), one.verdict === 'slower' ? 'w' : undefined],
        [changeWords(one)],
        [firmnessWords(one, comparison.tested), 's'],
      ]),
    ),
    ...anatomies.map(({ label, before: was, after: is }) =>
      [
        `<h2>${escapeXml(label)}: the middle attempt, by kind of work</h2>`,
        table(
          ['', 'before', 'after'],
          BREAKDOWN_PARTS.filter((part) => (was?.blame[part] ?? 0) + (is?.blame[part] ?? 0) >= 0.05).map(
            (part) => [[BREAKDOWN_LABELS[part]], ms(was?.blame[part]), ms(is?.blame[part])],
          ),
        ),
      ].join('\n'),
    ),
    ...(functions.length === 0
      ? []
      : [
          '<h2>Functions that changed</h2>',
          table(['function', 'where', 'own time before', 'own time after', 'each', ''], functions),
        ]),
    '</body></html>',
    '',
  ].join('\n');
}
