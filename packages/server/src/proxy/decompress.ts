import { PassThrough, Transform, type TransformCallback } from 'node:stream';
import {
  constants,
  createBrotliDecompress,
  createGunzip,
  createInflate,
  createInflateRaw,
  type ZlibOptions,
} from 'node:zlib';
import { Decompress } from 'fzstd';

/** Content codings (RFC 9110, section 8.4.1) that can be undone here. */
export const READABLE_CODINGS: readonly string[] = ['gzip', 'deflate', 'br', 'zstd'];
/** What a browser may name beside them: another name of one, and none. */
const AS_GOOD = ['x-gzip', 'identity'];

/**
 * Of the codings that a browser takes, those that can be undone here: what then passes as it is can be read by it, too.
 * @param accepted value of `Accept-Encoding`
 */
export function readableCodings(accepted: string): string {
  const readable = [...READABLE_CODINGS, ...AS_GOOD];
  const both = accepted
    .split(',')
    .map((one) => one.trim())
    .filter((one) => readable.includes(one.split(';', 1)[0]!.trim().toLowerCase()));
  return both.join(', ') || 'identity';
}

/** "deflate" is meant to come with a header (RFC 1950); many servers leave it out (RFC 1951), and browsers take both. */
class Inflating extends Transform {
  #inner: Transform | undefined;

  constructor(private readonly options: ZlibOptions) {
    super();
  }

  override _transform(piece: Buffer, _encoding: BufferEncoding, done: TransformCallback): void {
    this.#inner ??= this.#begin(piece[0]!);
    this.#inner.write(piece, done);
  }

  override _read(size: number): void {
    this.#inner?.resume();
    super._read(size);
  }

  override _flush(done: TransformCallback): void {
    if (this.#inner === undefined) done();
    else this.#inner.once('end', () => done()).end();
  }

  #begin(first: number): Transform {
    const hasHeader = (first & 0x0f) === 8;
    const inner = hasHeader ? createInflate(this.options) : createInflateRaw(this.options);
    inner.on('data', (piece) => {
      if (!this.push(piece)) inner.pause();
    });
    inner.once('error', (error) => this.destroy(error));
    return inner;
  }
}

/** A block says in four bytes what may be 128 kB: so many bytes are undone at once (RFC 8878, section 3.1.1.2). */
const ZSTD_BYTES_AT_ONCE = 64;
/** As much as a frame may want to keep in mind; browsers take no more than 8 MB (RFC 8878, section 3.1.1.1.2). */
const MAX_WINDOW = 128 * 2 ** 20;
const ZSTD_MAGIC = 0xfd2fb528;
/** A frame says by then how much it wants to keep in mind. Bytes. */
const ZSTD_HEAD = 14;

/**
 * What a frame wants to keep in mind, in bytes (RFC 8878, section 3.1.1.1).
 * @param head of the frame, or all of it where it is shorter
 */
function zstdWindow(head: Buffer): number {
  if (head.length < 6 || head.readUInt32LE(0) !== ZSTD_MAGIC) return 0;
  const descriptor = head[4]!;
  const isSingleSegment = (descriptor & 0x20) !== 0;
  if (!isSingleSegment) return 2 ** (10 + (head[5]! >> 3)) * (1 + (head[5]! & 7) / 8);
  const sizeBytes = [1, 2, 4, 8][descriptor >> 6]!;
  const sizeAt = 5 + [0, 1, 2, 4][descriptor & 3]!;
  if (head.length < sizeAt + sizeBytes) return 0;
  return sizeBytes < 8 ? head.readUIntLE(sizeAt, sizeBytes) : Number(head.readBigUInt64LE(sizeAt));
}

/** Undoes "zstd" (RFC 8878, RFC 9659), which this version of Node cannot. */
class ZstdDecompressing extends Transform {
  readonly #inner = new Decompress((piece) => {
    if (piece.length > 0) this.#isFull = !this.push(piece);
  });
  #isFull = false;
  #goOn: (() => void) | undefined;
  #head: Buffer | undefined = Buffer.alloc(0);

  override _transform(piece: Buffer, _encoding: BufferEncoding, done: TransformCallback): void {
    this.#take(piece).then(() => done(), done);
  }

  override _read(size: number): void {
    this.#isFull = false;
    this.#goOn?.();
    super._read(size);
  }

  override _flush(done: TransformCallback): void {
    const rest = this.#head ?? Buffer.alloc(0);
    this.#head = undefined;
    this.#begin(rest)
      .then(() => this.#inner.push(new Uint8Array(0), true))
      .then(() => done(), done);
  }

  async #take(piece: Buffer): Promise<void> {
    if (this.#head === undefined) return this.#undo(piece);
    this.#head = Buffer.concat([this.#head, piece]);
    if (this.#head.length < ZSTD_HEAD) return;
    const begin = this.#head;
    this.#head = undefined;
    await this.#begin(begin);
  }

  #begin(bytes: Buffer): Promise<void> {
    if (zstdWindow(bytes) > MAX_WINDOW)
      return Promise.reject(new RangeError('it wants more memory than it may have'));
    return this.#undo(bytes);
  }

  async #undo(bytes: Buffer): Promise<void> {
    for (let at = 0; at < bytes.length; at += ZSTD_BYTES_AT_ONCE) {
      this.#inner.push(bytes.subarray(at, at + ZSTD_BYTES_AT_ONCE));
      if (this.#isFull) await new Promise<void>((resolve) => (this.#goOn = resolve));
    }
  }
}

/**
 * A stream that undoes a content coding and hands on what it has as soon as it has it.
 * @returns undefined for a coding that cannot be undone.
 */
export function decompressor(coding: string | undefined): Transform | undefined {
  const partial = { flush: constants.Z_SYNC_FLUSH, finishFlush: constants.Z_SYNC_FLUSH };
  switch ((coding ?? 'identity').trim().toLowerCase()) {
    case 'identity':
    case '':
      return new PassThrough();
    case 'gzip':
    case 'x-gzip':
      return createGunzip(partial);
    case 'deflate':
      return new Inflating(partial);
    case 'br':
      return createBrotliDecompress({
        flush: constants.BROTLI_OPERATION_FLUSH,
        finishFlush: constants.BROTLI_OPERATION_FLUSH,
      });
    case 'zstd':
      return new ZstdDecompressing();
    default:
      return undefined;
  }
}
