import { decimalText } from '../words/figures';
import { BREAKDOWN_PARTS } from '../attribution/time-breakdown';
import { BREAKDOWN_LABELS } from '../attribution/breakdown-labels';
import type { ComparedFunction } from '../compare/compare-functions';
import { escapeXml } from './escape-xml';
import type { Recording } from '../recording/recording';
import { comparisonPicture } from './comparison-picture';
import {
  CHANGE_WORDS,
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
import { htmlPage, table, type Cell } from './html-page';
import type { Proof } from './proof';

const MAX_FUNCTIONS = 30;

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
      [CHANGE_WORDS[change]],
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
  return htmlPage(title, [
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
          table(['function', 'where', 'own time before', 'own time after', 'per', ''], functions),
        ]),
  ]);
}
