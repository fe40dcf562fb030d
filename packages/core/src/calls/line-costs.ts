import { canonicalFunction } from '../blame/call-path';
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
  const files = new Map<string, Map<number, LineCost>>();
  const change = (functionId: number, by: (line: LineCost) => Partial<LineCost>) => {
    const place = filePlaceOf(recording, recording.functions.get(functionId));
    if (place === undefined) return;
    const lines = files.get(place.file) ?? new Map<number, LineCost>();
    files.set(place.file, lines);
    const before = lines.get(place.line) ?? emptyLine(place.line);
    lines.set(place.line, { ...before, ...by(before) });
  };
  for (const { functionId, selfMs, totalMs, count } of functionTable(recording, lens)) {
    change(functionId, (line) => ({
      selfMs: line.selfMs + selfMs,
      totalMs: line.totalMs + totalMs,
      count: line.count + count,
      functionIds: [...line.functionIds, functionId],
    }));
  }
  const { startMs, endMs } = lensRange(recording, lens);
  for (const forced of recording.events.forced.overlapping(startMs, endMs)) {
    if (forced.thread !== lens.thread || forced.function === undefined) continue;
    change(canonicalFunction(recording, forced.function), (line) => ({
      forcedCount: line.forcedCount + forced.count,
      forcedMs: line.forcedMs + forced.costMs,
    }));
  }
  return [...files]
    .map(([file, lines]) => ({
      file,
      lines: [...lines.values()].sort((a, b) => a.line - b.line),
      selfMs: [...lines.values()].reduce((sum, { selfMs }) => sum + selfMs, 0),
    }))
    .sort((a, b) => b.selfMs - a.selfMs || (a.file < b.file ? -1 : 1));
}

function emptyLine(line: number): LineCost {
  return { line, selfMs: 0, totalMs: 0, count: 0, forcedCount: 0, forcedMs: 0, functionIds: [] };
}
