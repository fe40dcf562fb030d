import {
  CHANGE_WORDS,
  UNIT_WORDS,
  boundWords,
  changeWords,
  compareRecordings,
  comparisonMarkdown,
  comparisonPage,
  comparisonPicture,
  comparisonReport,
  firmnessWords,
  isChange,
  perUnitWords,
  proofOf,
  testedWords,
  verdictWords,
  type Recording,
  type Comparison,
  type SeriesSide,
  type Thresholds,
} from '@nettle-patch/core';
import type { Output } from './output';

/** Writes how two recordings differ, for people to read or to be passed on, or as JSON. @returns how they do */
export function writeComparison(
  output: Output,
  before: Recording,
  after: Recording,
  thresholds: Thresholds,
  as: 'text' | 'markdown' | 'json' | 'html' | 'svg',
): Comparison {
  if (as === 'html' || as === 'svg') {
    const proof = proofOf(before, after, thresholds);
    output.data((as === 'html' ? comparisonPage(proof) : comparisonPicture(proof)).trimEnd());
    return proof.comparison;
  }
  const comparison = compareRecordings(before, after, thresholds);
  if (as === 'json') output.json(comparisonReport(before, after, comparison));
  else if (as === 'markdown') output.data(comparisonMarkdown(before, after, comparison));
  else writeText(output, comparison);
  return comparison;
}

function writeText(output: Output, comparison: Comparison): void {
  for (const warning of comparison.warnings) output.line(output.style('yellow', warning));
  output.table(
    [
      ['', 'before', 'after', '', ''],
      ...comparison.series.map((series) => [
        series.label,
        medianWords(series.before),
        medianWords(series.after),
        verdictWords(series.verdict),
        changeWords(series),
      ]),
    ],
    [false, true, true, false, false],
  );
  output.line(output.style('dim', [testedWords(comparison), ...comparison.caveats].join(' ')));
  for (const series of comparison.series) {
    const isSaid = series.verdict === 'too-few-to-say' && !series.isInteraction;
    if (!isSaid)
      output.line(output.style('dim', `${series.label}: ${firmnessWords(series, comparison.tested)}`));
  }
  output.line();
  output.table(
    [
      ['own time before', 'after', 'per', '', 'function', 'where'],
      ...comparison.functions
        .filter(({ change }) => isChange(change))
        .slice(0, 20)
        .map(({ name, place, unit, change, before: was, after: is }) => [
          perUnitWords(was),
          perUnitWords(is),
          UNIT_WORDS[unit],
          CHANGE_WORDS[change],
          name,
          place,
        ]),
    ],
    [true, true, false, false, false, false],
  );
}

function medianWords({ medianMs, medianIsBound, count }: SeriesSide): string {
  return medianMs === undefined ? '–' : `${boundWords(medianMs, medianIsBound)} × ${count}`;
}
