/** Longest part of a function's text that is looked at. */
const MAX = 400;
/** Shorter ones are the text of many functions. */
const MIN = 12;

/** The end of a function's text, as a fingerprint: enough to find it again in its script, too little to read. */
export interface TextPart {
  readonly partLength: number;
  readonly partHash: string;
}

/** FNV-1a over UTF-16 units, 32 bits (draft-eastlake-fnv). */
export function hashText(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return (hash >>> 0).toString(16);
}

/**
 * The part of a function's text by which it can be found: from its parameters to its end, as before them stands
 * what differs between a method's text and the function in it, and not more than the last few hundred units.
 * @returns undefined for a text too short to be told from others, or of a native function
 */
export function textPart(text: string): TextPart | undefined {
  if (text.endsWith('[native code] }') || text.endsWith('[native code]\n}')) return undefined;
  const part = text.slice(Math.max(text.indexOf('('), text.length - MAX, 0));
  return part.length < MIN ? undefined : { partLength: part.length, partHash: hashText(part) };
}
