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

/**
 * Bytes of a base64 text (RFC 4648, section 4).
 * @throws RangeError naming the position of the first character that does not belong there.
 */
export function fromBase64(text: string): Uint8Array {
  if (text.length % 4 !== 0) throw new RangeError(`base64 of ${text.length} characters, not a multiple of 4`);
  const padding = text.endsWith('==') ? 2 : text.endsWith(PAD) ? 1 : 0;
  const digits = text.length - padding;
  const bytes = new Uint8Array((text.length / 4) * 3 - padding);
  let word = 0;
  let written = 0;
  for (let at = 0; at < text.length; at++) {
    const value = at < digits ? (valueOfCode[text.charCodeAt(at)] ?? NOT_IN_ALPHABET) : 0;
    if (value === NOT_IN_ALPHABET) throw new RangeError(`no base64 character at position ${at}`);
    word = (word << 6) | value;
    if (at % 4 === 3) {
      for (let shift = 16; shift >= 0 && written < bytes.length; shift -= 8) bytes[written++] = word >> shift;
      word = 0;
    }
  }
  return bytes;
}
