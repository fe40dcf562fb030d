import { encodeRecording } from '../recording/encoder';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { flameSvg } from './flame-svg';
import { foldedStacks } from './folded';
import { httpArchive } from './http-archive';
import { performanceEntries } from './performance-entries';
import { selfProfile } from './self-profile';
import { tableAsCsv, type TableName } from './tables';

/** A format that recordings are written in. */
export interface Exporter {
  /** What it cannot carry, to be said when it is written; nothing where it carries everything. */
  readonly leftOut?: string;
  /** The lines of a recording in it, each without its line end. @param table where it holds one of the tables only */
  lines(recording: Recording, table: TableName): Iterable<string>;
}

function json(value: unknown, indent?: number): string[] {
  return [JSON.stringify(value, null, indent)];
}

/** All formats, by the names they have on the command line: a format is an entry. */
export const EXPORTERS = {
  folded: {
    leftOut: 'Folded stacks have no times: only how long each stack took in all is kept.',
    lines: (recording) => foldedStacks(recording),
  },
  csv: { leftOut: 'One table is kept; choose another with --table.', lines: tableAsCsv },
  svg: {
    leftOut: 'Calls shorter than half a pixel are left out.',
    lines: (recording) => [flameSvg(recording)],
  },
  har: {
    leftOut: 'Only requests are kept; headers, queries and bodies were never recorded.',
    lines: (recording) => json(httpArchive(recording), 2),
  },
  entries: {
    leftOut:
      'Only what has a shape in the W3C standards is kept: no samples, calls, forced layouts or redraws.',
    lines: (recording) => json(performanceEntries(recording), 2),
  },
  trace: {
    leftOut: 'Only samples of the main thread are kept.',
    lines: (recording) => json(selfProfile(recording, MAIN_THREAD)),
  },
  jsonl: { lines: encodeRecording },
} as const satisfies Readonly<Record<string, Exporter>>;

export type ExportFormat = keyof typeof EXPORTERS;
