import type { Recording } from '../recording/recording';

/** Characters of a line that are quoted at most. */
const MAX_QUOTED = 60;

/** The text of a line of a function's file, short enough for a sentence; undefined where the recording has no text. */
export function codeOfLine(recording: Recording, functionId: number, line: number): string | undefined {
  const recorded = recording.functions.get(functionId);
  const file = recorded?.originalFile ?? recording.sources.get(recorded?.source ?? -1)?.url;
  const code = file === undefined ? undefined : lineOf(recording.files.get(file), line)?.trim();
  if (code === undefined || code === '') return undefined;
  return code.length > MAX_QUOTED ? `${code.slice(0, MAX_QUOTED - 1).trimEnd()}…` : code;
}

function lineOf(text: string | undefined, line: number): string | undefined {
  if (text === undefined) return undefined;
  let start = 0;
  for (let at = 1; at < line; at++) {
    start = text.indexOf('\n', start) + 1;
    if (start === 0) return undefined;
  }
  const end = text.indexOf('\n', start);
  return text.slice(start, end < 0 ? undefined : end);
}
