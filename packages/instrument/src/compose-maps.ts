import remapping from '@jridgewell/remapping';
import type MagicString from 'magic-string';
import type { ScriptToPrepare } from './rewrite-script';

/** The source map from the rewritten text through the script's own map to the original sources. */
export function composeMaps(edited: MagicString, options: ScriptToPrepare): string {
  const source = options.mapUrl ?? options.url;
  const own = edited.generateMap({ hires: 'boundary', source, includeContent: options.map === undefined });
  if (options.map === undefined) return own.toString();
  try {
    const theirs = options.map;
    // Its one source is the script; that of the script's own map may have the same address, and no map.
    return remapping(own.toString(), (_file, { depth }) => (depth === 1 ? theirs : null)).toString();
  } catch {
    return own.toString();
  }
}
