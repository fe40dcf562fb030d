import type { RowContent } from '../format/rows';
import { ownerOf, type RecordedFunction } from '../recording/functions';
import type { ScriptResolver } from './resolve-script';

/** Longest text that is kept, and how much is kept in all. UTF-16 units. */
const MAX_TEXT = 1_000_000;
const MAX_ALL_TEXTS = 8_000_000;

/**
 * Texts of the files that functions are in, so that a recording can be read beside its source wherever it is opened.
 * Own code comes first, in case there is too much.
 * @param resolvers by the id of the script
 */
export function textsOf(
  functions: readonly RecordedFunction[],
  resolvers: ReadonlyMap<number, ScriptResolver>,
): RowContent<'text'>[] {
  const scripts = new Map<string, ScriptResolver>();
  const byOwner = [...functions].sort((a, b) => rank(a) - rank(b));
  for (const { source, originalFile } of byOwner) {
    const resolver = source === undefined ? undefined : resolvers.get(source);
    if (resolver !== undefined) scripts.set(originalFile ?? resolver.url, resolver);
  }
  let room = MAX_ALL_TEXTS;
  const texts: RowContent<'text'>[] = [];
  for (const [file, resolver] of scripts) {
    const text = resolver.textOf(file);
    if (text === undefined || text.length > Math.min(room, MAX_TEXT)) continue;
    room -= text.length;
    texts.push({ file, text });
  }
  return texts;
}

function rank(recorded: RecordedFunction): number {
  return ownerOf(recorded) === 'own' ? 0 : 1;
}

/** Whether a line of a recording holds the text of a source, which those who pass it on may want to leave out. */
export function isTextLine(line: string): boolean {
  return line.startsWith('{"kind":"text"');
}
