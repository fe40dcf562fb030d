import type { RefusedRecordingError } from '../format/errors';
import { readRecording, type ReadResult } from '../recording/read';
import type { FileFacts } from './imported';
import { linesOfOpenFormat } from './open-formats';

/** How every recording of the project's own format begins: a text that does is read as nothing else. */
const OWN_BEGINNING = '{"kind":';

/** What a text of another open format was read as, and the bytes of its lines. */
export interface ReadAsRecording extends ReadResult {
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/**
 * Reads a file that was refused as a recording as another open format: the one way for whatever a person brings.
 * @param refused why it is no recording, which is said again where it begins like one
 * @throws RefusedRecordingError
 */
export function readAsRecording(
  text: string,
  facts: FileFacts,
  refused: RefusedRecordingError,
): ReadAsRecording {
  if (refused.code !== 'not-a-recording' || text.startsWith(OWN_BEGINNING)) throw refused;
  const lines = [...linesOfOpenFormat(text, facts)].map((line) => `${line}\n`).join('');
  const bytes = new TextEncoder().encode(lines);
  return { ...readRecording([bytes]), bytes };
}
