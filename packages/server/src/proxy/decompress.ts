import { PassThrough, type Transform } from 'node:stream';
import { constants, createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';

/** Content codings (RFC 9110, section 8.4.1) that can be undone here; a request for HTML offers no others. */
export const READABLE_CODINGS = 'gzip, deflate, br';

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
      return createInflate(partial);
    case 'br':
      return createBrotliDecompress({
        flush: constants.BROTLI_OPERATION_FLUSH,
        finishFlush: constants.BROTLI_OPERATION_FLUSH,
      });
    default:
      return undefined;
  }
}
