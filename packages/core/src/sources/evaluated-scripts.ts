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
 * A script of which the text is evaluated.
 * @returns undefined where it gives itself no address (`sourceURL`, ECMA-426)
 */
export function evaluatedScript(code: string): (ScriptText & { readonly text: string }) | undefined {
  const url = [...code.matchAll(OWN_ADDRESS)].at(-1)?.[1];
  if (url === undefined || plainAddress(url) === undefined) return undefined;
  const encoded = [...code.matchAll(INLINE_MAP)].at(-1)?.[1];
  return { url, text: code, ...(encoded === undefined ? {} : mapOf(encoded, url)) };
}

/**
 * Scripts that a script holds as text and has evaluated, as dev servers do to have each module be a script of its own.
 * @returns them with the maps they carry, by their addresses, also as recordings keep them
 */
export function evaluatedScripts(text: string): Map<string, ScriptText> {
  const found = new Map<string, ScriptText>();
  for (const [, literal] of text.matchAll(EVALUATED)) {
    let script: ScriptText | undefined;
    try {
      script = evaluatedScript(JSON.parse(literal!) as string);
    } catch {
      continue;
    }
    if (script === undefined) continue;
    found.set(script.url, script);
    found.set(plainAddress(script.url)!, script);
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
