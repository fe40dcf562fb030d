import { inlineMap } from './inline-map';
import type { ScriptText } from './script-text';

const CALL = 'eval(';
/** What may stand between the call and its text: what makes it trusted (Trusted Types). */
const BEFORE_TEXT = /(?:[\w$]+(?:\.[\w$]+)*\()?(?=")/y;
const OWN_ADDRESS = /^\/\/[#@]\s*sourceURL=(\S+)[ \t]*$/gm;
const INLINE_MAP = /^\/\/[#@]\s*sourceMappingURL=(data:\S+)[ \t]*$/gm;

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
  const map = [...code.matchAll(INLINE_MAP)].at(-1)?.[1];
  return { url, text: code, ...(map === undefined ? {} : inlineMap(map, url)) };
}

/** Where the string ends that begins at an offset, behind its quotation mark; undefined where it has no end. */
function endOfString(text: string, start: number): number | undefined {
  for (let at = text.indexOf('"', start + 1); at >= 0; at = text.indexOf('"', at + 1)) {
    let escapes = 0;
    while (text[at - 1 - escapes] === '\\') escapes++;
    if (escapes % 2 === 0) return at + 1;
  }
  return undefined;
}

/** The texts, as string literals, that a script evaluates. */
function* evaluatedLiterals(text: string): Generator<string> {
  let at = text.indexOf(CALL);
  while (at >= 0) {
    BEFORE_TEXT.lastIndex = at + CALL.length;
    const before = BEFORE_TEXT.exec(text);
    const start = at + CALL.length + (before?.[0].length ?? 0);
    const end = before === null ? undefined : endOfString(text, start);
    if (end !== undefined) yield text.slice(start, end);
    at = text.indexOf(CALL, end ?? at + CALL.length);
  }
}

/**
 * Scripts that a script holds as text and has evaluated, as dev servers do to have each module be a script of its own.
 * @returns them with the maps they carry, by their addresses, also as recordings keep them
 */
export function evaluatedScripts(text: string): Map<string, ScriptText> {
  const found = new Map<string, ScriptText>();
  for (const literal of evaluatedLiterals(text)) {
    let script: ScriptText | undefined;
    try {
      script = evaluatedScript(JSON.parse(literal) as string);
    } catch {
      continue;
    }
    if (script === undefined) continue;
    found.set(script.url, script);
    found.set(plainAddress(script.url)!, script);
  }
  return found;
}
