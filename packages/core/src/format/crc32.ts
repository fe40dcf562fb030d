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

/**
 * CRC-32 of RFC 1952 (gzip), section 8, eight bytes at a time (Kounavis and Berry, "A systematic approach to building
 * high performance software-based CRC generators", 2005).
 * @param before sum of the bytes before these
 * @returns a whole number from 0 to 2^32 - 1
 */
export function crc32(bytes: Uint8Array, before = 0): number {
  const tables = TABLES;
  let sum = ~before;
  let at = 0;
  for (const end = bytes.length - SLICES; at <= end; at += SLICES) {
    const low = sum ^ (bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16) | (bytes[at + 3]! << 24));
    sum =
      tables[1792 + (low & 0xff)]! ^
      tables[1536 + ((low >>> 8) & 0xff)]! ^
      tables[1280 + ((low >>> 16) & 0xff)]! ^
      tables[1024 + (low >>> 24)]! ^
      tables[768 + bytes[at + 4]!]! ^
      tables[512 + bytes[at + 5]!]! ^
      tables[256 + bytes[at + 6]!]! ^
      tables[bytes[at + 7]!]!;
  }
  for (; at < bytes.length; at++) sum = (sum >>> 8) ^ tables[(sum ^ bytes[at]!) & 0xff]!;
  return ~sum >>> 0;
}
