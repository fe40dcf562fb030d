import { withChecks } from '../recording/encoder';
import { RefusedRecordingError } from '../format/errors';
import { foldedStacksFormat } from './folded-stacks';
import { httpArchiveFormat } from './http-archive';
import { importedHeader, type FileFacts, type Imported, type OpenFormat } from './imported';
import { performanceEntriesFormat } from './performance-entries';
import { selfProfileFormat } from './self-profile';
import { jsonFault } from '../words/json-fault';

/** A text of more characters than this is not read as a whole, so that memory stays bounded. */
export const MAX_IMPORT = 150_000_000;

const READERS = [
  performanceEntriesFormat,
  httpArchiveFormat,
  selfProfileFormat,
  foldedStacksFormat,
] as readonly OpenFormat[];

/** What can be read, in a sentence. */
const EXPECTED = `neither a recording, nor ${READERS.map(({ name }) => name).join(', ')}`.replace(
  /, ([^,]*)$/,
  ' or $1',
);

function refuse(why: string): never {
  throw new RefusedRecordingError('not-a-recording', why);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    return refuse(`it begins as JSON but is none${jsonFault(error as SyntaxError, text)}`);
  }
}

/** What a reader makes of a text that it recognises; the first that does. */
function importedFrom(text: string): Imported {
  const isJson = /^\s*[[{]/.test(text);
  const value = isJson ? parsed(text) : text;
  const reader = READERS.find((one) => one.isJson === isJson && one.recognises(value));
  return reader === undefined ? refuse(`it is ${EXPECTED}`) : reader.read(value);
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
