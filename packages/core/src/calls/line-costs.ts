import { canonicalFunction } from '../attribution/call-path';
import type { RecordedFunction } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { functionTable } from './function-table';
import { lensRange, type Lens } from './lens';

/** What one line of a file cost: the functions that begin there, and the layout forced there. */
export interface LineCost {
  /** From 1. */
  readonly line: number;
  readonly selfMs: number;
  readonly totalMs: number;
  readonly count: number;
  /** How often layout was forced on this line, and what it took. */
  readonly forcedCount: number;
  readonly forcedMs: number;
  readonly functionIds: readonly number[];
}

type Growing = { -readonly [Key in keyof LineCost]: LineCost[Key] } & { functionIds: number[] };

export interface FileCosts {
  /** Path of the original source, or address of the script where none is known. */
  readonly file: string;
  readonly lines: readonly LineCost[];
  readonly selfMs: number;
}

/** File and line of a function, as resolved or else as it ran. */
export function filePlaceOf(
  recording: Recording,
  recorded: RecordedFunction | undefined,
): { readonly file: string; readonly line: number } | undefined {
  if (recorded === undefined) return undefined;
  const { originalFile, originalLine, source, line } = recorded;
  if (originalFile !== undefined && originalLine !== undefined)
    return { file: originalFile, line: originalLine };
  const url = source === undefined ? undefined : recording.sources.get(source)?.url;
  return url === undefined || line === undefined ? undefined : { file: url, line };
}

/** Cost beside the lines of every file under a lens, the dearest file first. */
export function fileCosts(recording: Recording, lens: Lens): FileCosts[] {
  const files = new Map<string, Map<number, Growing>>();
  const lineOf = (functionId: number): Growing | undefined => {
    const place = filePlaceOf(recording, recording.functions.get(functionId));
    if (place === undefined) return undefined;
    let lines = files.get(place.file);
    if (lines === undefined) files.set(place.file, (lines = new Map()));
    let line = lines.get(place.line);
    if (line === undefined) lines.set(place.line, (line = emptyLine(place.line)));
    return line;
  };
  for (const { functionId, selfMs, totalMs, count } of functionTable(recording, lens)) {
    const line = lineOf(functionId);
    if (line === undefined) continue;
    line.selfMs += selfMs;
    line.totalMs += totalMs;
    line.count += count;
    line.functionIds.push(functionId);
  }
  const { startMs, endMs } = lensRange(recording, lens);
  for (const forced of recording.events.forced.overlapping(startMs, endMs)) {
    if (forced.thread !== lens.thread || forced.function === undefined) continue;
    const line = lineOf(canonicalFunction(recording, forced.function));
    if (line === undefined) continue;
    line.forcedCount += forced.count;
    line.forcedMs += forced.costMs;
  }
  return [...files]
    .map(([file, lines]) => ({
      file,
      lines: [...lines.values()].sort((a, b) => a.line - b.line),
      selfMs: [...lines.values()].reduce((sum, { selfMs }) => sum + selfMs, 0),
    }))
    .sort((a, b) => b.selfMs - a.selfMs || (a.file < b.file ? -1 : 1));
}

function emptyLine(line: number): Growing {
  return { line, selfMs: 0, totalMs: 0, count: 0, forcedCount: 0, forcedMs: 0, functionIds: [] };
}
