import { displayName, displayPlace, originalPath, ownerOf, type Recording } from '@nettle-patch/core';
import type { NamedFunction } from './analysis-results';

/** A function of a recording by its best name and place. */
export function namedFunction(recording: Recording, functionId: number): NamedFunction {
  const recorded = recording.functions.get(functionId);
  const source = recorded?.source === undefined ? undefined : recording.sources.get(recorded.source);
  const start = startOf(recording, functionId);
  return {
    name: displayName(recorded),
    place: displayPlace(recorded, source),
    owner: ownerOf(recorded),
    ...(start === undefined ? {} : { start }),
  };
}

/** Where a function of a script of the app begins, as rewriting names it. */
function startOf({ functions, sources }: Recording, functionId: number): string | undefined {
  const recorded = functions.get(functionId);
  if (recorded === undefined) return undefined;
  const { originalFile, originalLine, originalColumn, source, line, column, place } = recorded;
  if (source === undefined) return undefined;
  if (originalFile !== undefined && originalLine !== undefined)
    return `${originalFile}:${originalLine}:${originalColumn ?? 1}`;
  const url = sources.get(source)?.url;
  if (url === undefined || line === undefined || place === true) return undefined;
  return `${originalPath(url)}:${line}:${column ?? 1}`;
}
