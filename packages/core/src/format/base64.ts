const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const PAD = '=';
const NOT_IN_ALPHABET = 64;

const codeOfValue = Uint8Array.from(ALPHABET, (letter) => letter.charCodeAt(0));
const valueOfCode = new Uint8Array(128).fill(NOT_IN_ALPHABET);
for (let value = 0; value < ALPHABET.length; value++) valueOfCode[ALPHABET.charCodeAt(value)] = value;

/** Base64 of RFC 4648, section 4, with padding. */
export function toBase64(bytes: Uint8Array): string {
  const digits = new Uint8Array(Math.ceil(bytes.length / 3) * 4);
  let written = 0;
  for (let at = 0; at < bytes.length; at += 3) {
    const word = (bytes[at]! << 16) | ((bytes[at + 1] ?? 0) << 8) | (bytes[at + 2] ?? 0);
    digits[written++] = codeOfValue[word >> 18]!;
    digits[written++] = codeOfValue[(word >> 12) & 63]!;
    digits[written++] = codeOfValue[(word >> 6) & 63]!;
    digits[written++] = codeOfValue[word & 63]!;
  }
  const missing = (3 - (bytes.length % 3)) % 3;
  for (let pad = 1; pad <= missing; pad++) digits[written - pad] = PAD.charCodeAt(0);
  return new TextDecoder().decode(digits);
}

/** @throws RangeError where the character is none of base64 */
function valueAt(text: string, at: number): number {
  const code = text.charCodeAt(at);
  const value = code < 128 ? valueOfCode[code]! : NOT_IN_ALPHABET;
  if (value === NOT_IN_ALPHABET) throw new RangeError(`no base64 character at position ${at}`);
  return value;
}

/** How many bytes a text without anything else in it stands for. */
function lengthOf(text: string): number {
  const padding = text.endsWith('==') ? 2 : text.endsWith(PAD) ? 1 : 0;
  return (text.length / 4) * 3 - padding;
}

interface Engine {
  readonly Uint8Array: { fromBase64?(text: string, options: { lastChunkHandling: string }): Uint8Array };
  readonly Buffer?: { from(text: string, encoding: 'base64'): Uint8Array };
}

/** Letters of the alphabet for addresses (RFC 4648, section 5), which some engines take as well. */
const FOR_ADDRESSES = ['-', '_'];

/**
 * The same by what the engine offers (ECMA-262, Uint8Array.fromBase64; Buffer in Node); undefined where it offers
 * nothing, or passes over what does not belong there.
 */
function byEngine(text: string): Uint8Array | undefined {
  const engine = globalThis as unknown as Engine;
  try {
    const bytes =
      engine.Uint8Array.fromBase64?.(text, { lastChunkHandling: 'strict' }) ??
      engine.Buffer?.from(text, 'base64');
    if (bytes?.length !== lengthOf(text) || FOR_ADDRESSES.some((letter) => text.includes(letter)))
      return undefined;
    return new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.length);
  } catch {
    return undefined;
  }
}

/**
 * Bytes of a base64 text (RFC 4648, section 4).
 * @throws RangeError naming the position of the first character that does not belong there.
 */
export function fromBase64(text: string): Uint8Array {
  const native = byEngine(text);
  if (native !== undefined) return native;
  if (text.length % 4 !== 0) throw new RangeError(`base64 of ${text.length} characters, not a multiple of 4`);
  const bytes = new Uint8Array(lengthOf(text));
  const digits = Math.floor((bytes.length * 8 + 5) / 6);
  const whole = digits - (digits % 4);
  let written = 0;
  for (let at = 0; at < whole; at += 4) {
    const a = text.charCodeAt(at);
    const b = text.charCodeAt(at + 1);
    const c = text.charCodeAt(at + 2);
    const d = text.charCodeAt(at + 3);
    if ((a | b | c | d) > 127) for (let place = at; place < at + 4; place++) valueAt(text, place);
    const first = valueOfCode[a]!;
    const second = valueOfCode[b]!;
    const third = valueOfCode[c]!;
    const fourth = valueOfCode[d]!;
    if (((first | second | third | fourth) & NOT_IN_ALPHABET) !== 0)
      for (let place = at; place < at + 4; place++) valueAt(text, place);
    const word = (first << 18) | (second << 12) | (third << 6) | fourth;
    bytes[written] = word >> 16;
    bytes[written + 1] = word >> 8;
    bytes[written + 2] = word;
    written += 3;
  }
  if (digits > whole) {
    const third = digits - whole === 3 ? valueAt(text, whole + 2) : 0;
    const word = (valueAt(text, whole) << 18) | (valueAt(text, whole + 1) << 12) | (third << 6);
    for (let shift = 16; written < bytes.length; shift -= 8) bytes[written++] = word >> shift;
  }
  return bytes;
}
