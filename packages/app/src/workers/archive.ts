import type { RecordingDecoder } from '@nettle-patch/core';

const GZIP_MAGIC = [0x1f, 0x8b];

async function isGzip(file: Blob): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  return GZIP_MAGIC.every((byte, index) => head[index] === byte);
}

/**
 * Reads a file's lines piece by piece, undoing gzip (RFC 1952) where it is used. A damaged archive is read as
 * far as it goes, and the decoder is told.
 * @param take is given each piece, after the decoder had it
 */
export async function readFile(
  file: Blob,
  decoder: RecordingDecoder,
  take: (piece: Uint8Array) => void,
  onProgress: (bytesRead: number) => void,
): Promise<void> {
  const compressed = await isGzip(file);
  let read = 0;
  const counted = file.stream().pipeThrough(
    new TransformStream<Uint8Array, Uint8Array<ArrayBuffer>>({
      transform(piece, controller) {
        read += piece.length;
        onProgress(read);
        controller.enqueue(piece as Uint8Array<ArrayBuffer>);
      },
    }),
  );
  const lines = compressed ? counted.pipeThrough(new DecompressionStream('gzip')) : counted;
  const reader = lines.getReader();
  for (;;) {
    let piece: Uint8Array | undefined;
    try {
      piece = (await reader.read()).value;
    } catch (error) {
      if (!compressed) throw error;
      decoder.note({
        code: 'damaged-archive',
        detail: 'the compressed file is damaged or cut off from here on',
      });
      return;
    }
    if (piece === undefined) return;
    decoder.push(piece);
    take(piece);
  }
}

/** The lines as a gzip file. */
export async function gzip(lines: Iterable<string>): Promise<Blob> {
  const iterator = lines[Symbol.iterator]();
  const source = new ReadableStream<string>({
    pull(controller) {
      for (let count = 0; count < 500; count++) {
        const { done, value } = iterator.next();
        if (done) return controller.close();
        controller.enqueue(`${value}\n`);
      }
      return undefined;
    },
  });
  const packed = source.pipeThrough(new TextEncoderStream()).pipeThrough(new CompressionStream('gzip'));
  return new Response(packed).blob();
}
