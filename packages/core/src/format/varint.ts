/** Writes unsigned whole numbers as little-endian groups of 7 bits, the high bit meaning "more follows". */
export class VarintWriter {
  #bytes = new Uint8Array(256);
  #length = 0;

  /** @throws RangeError unless 0 <= value <= Number.MAX_SAFE_INTEGER. */
  write(value: number): void {
    if (!Number.isSafeInteger(value) || value < 0) throw new RangeError(`cannot write ${value} as a varint`);
    if (this.#length + 8 > this.#bytes.length) {
      const larger = new Uint8Array(this.#bytes.length * 2);
      larger.set(this.#bytes);
      this.#bytes = larger;
    }
    let rest = value;
    while (rest >= 0x80) {
      this.#bytes[this.#length++] = (rest % 0x80) | 0x80;
      rest = Math.floor(rest / 0x80);
    }
    this.#bytes[this.#length++] = rest;
  }

  /** The bytes written so far, as a copy. */
  bytes(): Uint8Array {
    return this.#bytes.slice(0, this.#length);
  }
}

/** Reads what VarintWriter writes. */
export class VarintReader {
  #at = 0;

  constructor(private readonly bytes: Uint8Array) {}

  get done(): boolean {
    return this.#at >= this.bytes.length;
  }

  /** Where the next number begins. */
  get place(): number {
    return this.#at;
  }

  /** The number that begins at a place. @throws RangeError as `read` does */
  readFrom(place: number): number {
    this.#at = place;
    return this.read();
  }

  /** @throws RangeError at the end of the bytes, or when the number exceeds Number.MAX_SAFE_INTEGER. */
  read(): number {
    let value = 0;
    let scale = 1;
    for (;;) {
      const byte = this.bytes[this.#at++];
      if (byte === undefined)
        throw new RangeError(`packed data ends inside a number at byte ${this.#at - 1}`);
      value += (byte & 0x7f) * scale;
      if (byte < 0x80) break;
      scale *= 0x80;
      if (scale > 2 ** 49) throw new RangeError(`packed number too large at byte ${this.#at - 1}`);
    }
    if (!Number.isSafeInteger(value)) throw new RangeError(`packed number too large at byte ${this.#at - 1}`);
    return value;
  }
}
