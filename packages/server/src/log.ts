import { printable } from './printable';

const SECRETS: readonly (readonly [RegExp, string])[] = [
  [/(secret=)[^&\s"'#]+/gi, '$1…'],
  [/(Bearer\s+)[\w.~+/-]+/gi, '$1…'],
  [/(nettle-patch-device=)[^;\s"']+/gi, '$1…'],
  [/(\/pair\/)[\w-]+/gi, '$1…'],
  [/((?:authorization|cookie|set-cookie|sec-websocket-protocol)["']?\s*:\s*)[^\r\n]+/gi, '$1…'],
];

/** A text without what lets somebody in: secrets, codes, cookies. */
export function redacted(text: string): string {
  return SECRETS.reduce((left, [pattern, put]) => left.replace(pattern, put), text);
}

/** Tells of something that went wrong, on standard error, without secrets. */
export function log(text: string): void {
  console.error(printable(redacted(text)));
}
