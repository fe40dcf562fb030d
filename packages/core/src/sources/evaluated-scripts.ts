import { fromBase64 } from '../format/base64';
import type { ScriptText } from './resolve-script';

/** A call of `eval` with a text, directly or by way of what makes it trusted (Trusted Types). */
const EVALUATED = /\beval\((?:[\w$.]+\()?("(?:[^"\\\n\r]|\\.)*")\)/g;
const OWN_ADDRESS = /^\/\/[#@]\s*sourceURL=(\S+)[ \t]*$/gm;
const INLINE_MAP = /^\/\/[#@]\s*sourceMappingURL=data:[^,]*;base64,(\S+)[ \t]*$/gm;

/** An address as recordings keep it: without query and fragment; of a scheme without hosts, "null" in the host's place. */
function plainAddress(url: string): string | undefined {
  try {
    const { origin, pathname } = new URL(url);
    return origin + pathname;
  } catch {
    return undefined;
  }
}

/**
 * Scripts that a script holds as text and has evaluated, as dev servers do to have each module be a script of its own.
 * Only those count that give themselves an address (`sourceURL`, ECMA-426).
 * @returns them with the maps they carry, by their addresses as recordings keep them
 */
export function evaluatedScripts(text: string): Map<string, ScriptText> {
  const found = new Map<string, ScriptText>();
  for (const [, literal] of text.matchAll(EVALUATED)) {
    let code: string;
    try {
      code = JSON.parse(literal!) as string;
    } catch {
      continue;
    }
    const url = [...code.matchAll(OWN_ADDRESS)].at(-1)?.[1];
    const address = url && plainAddress(url);
    if (!url || !address) continue;
    const encoded = [...code.matchAll(INLINE_MAP)].at(-1)?.[1];
    found.set(address, { url, text: code, ...(encoded === undefined ? {} : mapOf(encoded, url)) });
  }
  return found;
}

function mapOf(encoded: string, url: string): Partial<ScriptText> {
  try {
    return { map: new TextDecoder().decode(fromBase64(encoded)), mapUrl: url };
  } catch {
    return { problem: 'its source map is a data address that cannot be read' };
  }
}
