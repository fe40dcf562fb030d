const POLYNOMIAL = 0xedb88320;

const table = new Uint32Array(256);
for (let byte = 0; byte < 256; byte++) {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ POLYNOMIAL : value >>> 1;
  table[byte] = value;
}

/**
 * CRC-32 of RFC 1952, section 8.
 * @param before checksum of the bytes that precede these, to go on from.
 */
export function crc32(bytes: Uint8Array, before = 0): number {
  let crc = ~before;
  for (let at = 0; at < bytes.length; at++) crc = table[(crc ^ bytes[at]!) & 0xff]! ^ (crc >>> 8);
  return ~crc >>> 0;
}
