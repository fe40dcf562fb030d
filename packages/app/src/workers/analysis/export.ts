import { isTextLine, withChecks, type Header } from '@nettle-patch/core';
import type { StoredRecording } from '../../store/database';
import { gzip } from '../import/archive';

const CHECK_START = '{"kind":"check"';

function* linesOf(pieces: readonly Uint8Array[]): Generator<string> {
  const decoder = new TextDecoder();
  let rest = '';
  for (const piece of pieces) {
    const lines = (rest + decoder.decode(piece, { stream: true })).split('\n');
    rest = lines.pop()!;
    yield* lines;
  }
  rest += decoder.decode();
  if (rest !== '') yield rest;
}

function* asKept(
  lines: Iterable<string>,
  { title, quiet }: StoredRecording,
  withTexts: boolean,
): Generator<string> {
  const marked = quiet === undefined ? {} : { quiet };
  let first = true;
  for (const line of lines) {
    if (line.startsWith(CHECK_START) || (!withTexts && isTextLine(line))) continue;
    yield first ? JSON.stringify({ ...(JSON.parse(line) as Header), title, ...marked }) : line;
    first = false;
  }
}

/**
 * A recording as a file. One that was damaged when it was read is written as it was read, so that its check
 * lines go on telling of the damage; all others get their present title, their quiet ranges and check lines of their own.
 * @param withTexts whether the texts of sources go with it
 */
export function exportFile(
  kept: StoredRecording,
  pieces: readonly Uint8Array[],
  withTexts = true,
): Promise<Blob> {
  const lines = linesOf(pieces);
  return gzip(kept.damaged ? lines : withChecks(asKept(lines, kept, withTexts)));
}

/** A file name for a recording: its title and date, in characters every system allows. */
export function fileName(kept: StoredRecording): string {
  const title = kept.title
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60);
  return `${title || 'recording'}-${kept.createdAt.slice(0, 10)}.nettle.jsonl.gz`;
}
