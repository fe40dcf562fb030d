import { PassThrough, Transform, type TransformCallback } from 'node:stream';
import {
  constants,
  createBrotliDecompress,
  createGunzip,
  createInflate,
  createInflateRaw,
  type ZlibOptions,
} from 'node:zlib';

/** Content codings (RFC 9110, section 8.4.1) that can be undone here; a request for HTML offers no others. */
export const READABLE_CODINGS = 'gzip, deflate, br';

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
    default:
      return undefined;
  }
}
