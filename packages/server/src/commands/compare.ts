import {
  compareRecordings,
  comparisonMarkdown,
  comparisonPage,
  comparisonPicture,
  comparisonReport,
  proofOf,
  verdictWords,
  type Recording,
  type Thresholds,
} from '@nettle-patch/core';
import type { Output } from './output';

/** Writes how two recordings differ, for people to read or to be passed on, or as JSON. */
export function writeComparison(
  output: Output,
  before: Recording,
  after: Recording,
  thresholds: Thresholds,
  as: 'text' | 'markdown' | 'json' | 'html' | 'svg',
): void {
  if (as === 'html' || as === 'svg') {
    const proof = proofOf(before, after, thresholds);
    output.line((as === 'html' ? comparisonPage(proof) : comparisonPicture(proof)).trimEnd());
    return;
  }
  const comparison = compareRecordings(before, after, thresholds);
  if (as === 'json') {
    output.line(JSON.stringify(comparisonReport(before, after, comparison), null, 2));
    return;
  }
  if (as === 'markdown') {
    output.line(comparisonMarkdown(before, after, comparison));
    return;
  }
  for (const warning of comparison.warnings) output.line(output.style('yellow', warning));
  output.table(
    [
      ['', 'before', 'after', '', ''],
      ...comparison.series.map(({ label, before: was, after: is, verdict, change }) => [
        label,
        was.medianMs === undefined ? '–' : `${was.medianMs.toFixed(0)} ms × ${was.count}`,
        is.medianMs === undefined ? '–' : `${is.medianMs.toFixed(0)} ms × ${is.count}`,
        verdictWords(verdict),
        change === undefined
          ? ''
          : `${change.difference.toFixed(0)} ms (${change.low.toFixed(0)} to ${change.high.toFixed(0)})`,
      ]),
    ],
    [false, true, true, false, false],
  );
  output.line();
  output.table(
    [
      ['self before', 'self after', '', 'function', 'where'],
      ...comparison.functions
        .filter(({ change, selfChangeMs }) => change !== 'same' && Math.abs(selfChangeMs) >= 1)
        .slice(0, 20)
        .map(({ name, place, change, before: was, after: is }) => [
          was === undefined ? '–' : was.selfMs.toFixed(1),
          is === undefined ? '–' : is.selfMs.toFixed(1),
          change,
          name,
          place,
        ]),
    ],
    [true, true, false, false, false],
  );
}
