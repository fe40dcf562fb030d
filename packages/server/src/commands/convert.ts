import {
  MAIN_THREAD,
  encodeRecording,
  flameSvg,
  foldedStacks,
  httpArchive,
  performanceEntries,
  selfProfile,
  tableAsCsv,
  type Recording,
  type TableName,
} from '@nettle-patch/core';

export const FORMATS = ['folded', 'csv', 'svg', 'har', 'entries', 'trace', 'jsonl'] as const;
export type Format = (typeof FORMATS)[number];

/** What a format cannot carry, to be said when it is written. */
export const LEFT_OUT: Partial<Record<Format, string>> = {
  folded: 'Folded stacks have no times: only how long each stack took in all is kept.',
  csv: 'One table is kept; choose another with --table.',
  svg: 'Calls shorter than half a pixel are left out.',
  entries:
    'Only what has a shape in the W3C standards is kept: no samples, calls, forced layouts or redraws.',
  trace: 'Only samples of the main thread are kept.',
  har: 'Only requests are kept; headers, queries and bodies were never recorded.',
};

/** The lines of a recording in another format, each without its line end. */
export function* convertedLines(recording: Recording, format: Format, table: TableName): Generator<string> {
  switch (format) {
    case 'folded':
      yield* foldedStacks(recording);
      return;
    case 'csv':
      yield* tableAsCsv(recording, table);
      return;
    case 'svg':
      yield flameSvg(recording);
      return;
    case 'har':
      yield JSON.stringify(httpArchive(recording), null, 2);
      return;
    case 'entries':
      yield JSON.stringify(performanceEntries(recording), null, 2);
      return;
    case 'trace':
      yield JSON.stringify(selfProfile(recording, MAIN_THREAD));
      return;
    case 'jsonl':
      yield* encodeRecording(recording);
  }
}
