const POLYNOMIAL = 0xedb88320;
/** Bytes that are taken at once. */
const SLICES = 8;
const BYTES = 256;

/** For each place in a slice, what a byte there does to the sum. */
const TABLES = makeTables();

function makeTables(): Int32Array {
  const tables = new Int32Array(SLICES * BYTES);
  for (let byte = 0; byte < BYTES; byte++) {
    let sum = byte;
    for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? (sum >>> 1) ^ POLYNOMIAL : sum >>> 1;
    tables[byte] = sum;
  }
  for (let at = BYTES; at < tables.length; at++) {
    const before = tables[at - BYTES]!;
    tables[at] = (before >>> 8) ^ tables[before & 0xff]!;
  }
  return tables;
}

/** Bytes of a word, of which two are taken at once. */
const WORD = 4;

function byteByByte(bytes: Uint8Array, before: number, from: number, to: number): number {
  let sum = before;
  for (let at = from; at < to; at++) sum = (sum >>> 8) ^ TABLES[(sum ^ bytes[at]!) & 0xff]!;
  return sum;
}

/** Two words at a time. Words are little-endian, as on every machine browsers run on. */
function byWords(words: Int32Array, before: number): number {
  const tables = TABLES;
  let sum = before;
  for (let at = 0; at < words.length; at += 2) {
    const low = sum ^ words[at]!;
    const high = words[at + 1]!;
    sum =
      tables[1792 + (low & 0xff)]! ^
      tables[1536 + ((low >>> 8) & 0xff)]! ^
      tables[1280 + ((low >>> 16) & 0xff)]! ^
      tables[1024 + (low >>> 24)]! ^
      tables[768 + (high & 0xff)]! ^
      tables[512 + ((high >>> 8) & 0xff)]! ^
      tables[256 + ((high >>> 16) & 0xff)]! ^
      tables[high >>> 24]!;
  }
  return sum;
}

/**
 * CRC-32 of RFC 1952 (gzip), section 8, eight bytes at a time (Kounavis and Berry, "A systematic approach to building
 * high performance software-based CRC generators", 2005).
 * @param before sum of the bytes before these
 * @param from first place of the bytes to be summed up
 * @param to first place after them
 * @returns a whole number from 0 to 2^32 - 1
 */
export function crc32(bytes: Uint8Array, before = 0, from = 0, to = bytes.length): number {
  const aligned = from + ((WORD - ((bytes.byteOffset + from) % WORD)) % WORD);
  const pairs = Math.max(0, Math.floor((to - aligned) / SLICES));
  if (pairs === 0) return ~byteByByte(bytes, ~before, from, to) >>> 0;
  const words = new Int32Array(bytes.buffer, bytes.byteOffset + aligned, pairs * 2);
  const sum = byWords(words, byteByByte(bytes, ~before, from, aligned));
  return ~byteByByte(bytes, sum, aligned + pairs * SLICES, to) >>> 0;
}
