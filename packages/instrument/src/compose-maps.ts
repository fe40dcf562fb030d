import remapping from '@jridgewell/remapping';
import { readSourceMap } from '@nettle-patch/core';
import type MagicString from 'magic-string';
import type { ScriptToPrepare } from './script-to-prepare';

/**
 * The source map from the rewritten text through the script's own map, of either kind, to the original sources; to the
 * script itself where it has none that can be read.
 */
export function composeMaps(edited: MagicString, options: ScriptToPrepare): string {
  const { map: theirs } = readSourceMap(options);
  const source = (theirs && options.mapUrl) ?? options.url;
  const own = edited.generateMap({ hires: 'boundary', source, includeContent: theirs === undefined });
  if (theirs === undefined) return own.toString();
  // Its one source is the script; that of the script's own map may have the same address, and no map.
  return remapping(own.toString(), (_file, { depth }) => (depth === 1 ? theirs : null)).toString();
}
