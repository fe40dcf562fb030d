import { withChecks } from '../recording/encoder';
import { RefusedRecordingError } from '../format/errors';
import { isFolded, readFoldedStacks } from './folded-stacks';
import { isHttpArchive, readHttpArchive } from './http-archive';
import { importedHeader, type FileFacts, type Imported } from './imported';
import { areEntries, readPerformanceEntries } from './performance-entries';
import { isSelfProfile, readSelfProfile } from './self-profile';

/** A text of more characters than this is not read as a whole, so that memory stays bounded. */
export const MAX_IMPORT = 150_000_000;

const EXPECTED =
  'neither a recording, nor a list of performance entries, a JS Self-Profiling trace, an HTTP Archive or folded stacks';

function refuse(why: string): never {
  throw new RefusedRecordingError('not-a-recording', why);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    return refuse(`it begins as JSON but is none: ${(error as Error).message}`);
  }
}

function importedFrom(text: string): Imported {
  const start = text.trimStart().charAt(0);
  if (start === '[' || start === '{') {
    const value = parsed(text);
    if (areEntries(value)) return readPerformanceEntries(value);
    if (typeof value === 'object' && value !== null && isHttpArchive(value)) return readHttpArchive(value);
    if (typeof value === 'object' && value !== null && isSelfProfile(value)) return readSelfProfile(value);
    return refuse(`it is ${EXPECTED}`);
  }
  return isFolded(text) ? readFoldedStacks(text) : refuse(`it is ${EXPECTED}`);
}

/**
 * Reads a text of another open format as a recording: its lines, without line ends. What the format could not carry
 * stands in it as `drop` rows that lost nothing countable.
 * @throws RefusedRecordingError that says what was expected and where the text departs from it
 */
export function* linesOfOpenFormat(text: string, facts: FileFacts): Generator<string> {
  if (text.trim() === '') throw new RefusedRecordingError('empty', 'there is no line in it');
  if (text.length > MAX_IMPORT)
    refuse(`it has more than ${MAX_IMPORT / 1e6} million characters, too many to be read as a whole`);
  const imported = importedFrom(text);
  const rows = [
    importedHeader(text, facts, imported),
    ...imported.lost.map((reason) => ({ kind: 'drop', startMs: 0, count: 0, reason })),
    ...imported.rows,
  ];
  yield* withChecks(rows.map((row) => JSON.stringify(row)));
}
