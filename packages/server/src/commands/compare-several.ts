import {
  MAX_SEVERAL,
  compareSeveral,
  madeWords,
  severalFunctionRows,
  severalMarkdown,
  severalPage,
  severalReport,
  severalRows,
  severalTestWords,
  severalTitle,
  type Recording,
  type Thresholds,
} from '@nettle-patch/core';
import type { Output } from './output';
import { FileError } from './read-recording';

/**
 * Writes how several recordings differ, for people to read or to be passed on, or as JSON.
 * @throws FileError for more of them than can be held against each other, or a form there is none of
 */
export function writeSeveral(
  output: Output,
  recordings: readonly Recording[],
  thresholds: Thresholds,
  as: 'text' | 'markdown' | 'json' | 'html' | 'svg',
): void {
  if (recordings.length > MAX_SEVERAL)
    throw new FileError(`compare takes up to ${MAX_SEVERAL} recordings, got ${recordings.length}.`);
  if (as === 'svg')
    throw new FileError('--svg draws two recordings: several are a table, as --html or --markdown.');
  const comparison = compareSeveral(recordings, thresholds);
  if (as === 'json') return output.json(severalReport(recordings, comparison));
  if (as === 'markdown') return output.data(severalMarkdown(recordings, comparison));
  if (as === 'html') return output.data(severalPage(recordings, comparison).trimEnd());
  for (const [at, one] of recordings.entries())
    output.line(`${at + 1}: ${severalTitle(one)} (${madeWords(one)})`);
  for (const warning of comparison.warnings) output.line(output.style('yellow', warning));
  const numbers = recordings.map((_, at) => String(at + 1));
  output.line();
  output.table([['', ...numbers], ...severalRows(comparison)], [false, ...recordings.map(() => true)]);
  output.wrapped(severalTestWords(comparison));
  const functions = severalFunctionRows(comparison);
  if (functions.length === 0) return;
  output.line();
  output.table(
    [['own time of', 'where', 'per', ...numbers], ...functions],
    [false, false, false, ...recordings.map(() => true)],
  );
}
