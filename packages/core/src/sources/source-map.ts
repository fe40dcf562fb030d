import { FlattenMap, decodedMappings, type TraceMap } from '@jridgewell/trace-mapping';
import type { ScriptText } from './script-text';

/** What some servers put before JSON so that it cannot be run as a script; ECMA-426 has readers skip it. */
const JSON_PREFIX = /^\)\]\}'[^\n]*\n/;

/** A source map that was read, or why it was not. */
export interface ReadMap {
  readonly map?: TraceMap;
  readonly problem?: string;
}

/**
 * Reads the source map of a script (ECMA-426), index maps with `sections` included. Mappings are decoded at once, so
 * that a damaged map is found here and not in the middle of a look-up.
 */
export function readSourceMap({ map: text, mapUrl, url }: ScriptText): ReadMap {
  if (text === undefined) return {};
  try {
    const parsed = JSON.parse(text.replace(JSON_PREFIX, '')) as object | null;
    if (typeof parsed !== 'object' || parsed === null) return { problem: 'its source map is no object' };
    const map = new FlattenMap(parsed as never, mapUrl ?? url);
    decodedMappings(map);
    return { map };
  } catch (error) {
    return { problem: `its source map could not be read: ${(error as Error).message}` };
  }
}
