import { cutText } from '../words/cut-text';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording } from '../recording/recording';
import { LineIndex } from './text-position';

/** Characters of a line that are quoted at most. */
const MAX_QUOTED = 60;

/** The text of a line of a function's file, short enough for a sentence; undefined where the recording has no text. */
export function codeOfLine(recording: Recording, functionId: number, line: number): string | undefined {
  const recorded = recording.functions.get(functionId);
  const file = recorded?.originalFile ?? recording.sources.get(recorded?.source ?? -1)?.url;
  const code = file === undefined ? undefined : linesOf(recording, file)?.lineOf(line).trim();
  if (code === undefined || code === '') return undefined;
  return cutText(code, MAX_QUOTED);
}

const indexes = memoizedPerRecording(() => new Map<string, LineIndex>());

/** The lines of a file; undefined where the recording does not carry its text. */
export function linesOf(recording: Recording, file: string): LineIndex | undefined {
  const known = indexes(recording);
  const text = recording.files.get(file);
  if (text !== undefined && !known.has(file)) known.set(file, new LineIndex(text));
  return known.get(file);
}
