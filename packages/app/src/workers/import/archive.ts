import type { RecordingDecoder } from '@nettle-patch/core';

const GZIP_MAGIC = [0x1f, 0x8b];

async function isGzip(file: Blob): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  return GZIP_MAGIC.every((byte, index) => head[index] === byte);
}

/** How many bytes a file probably unpacks to: gzip says so at its end, modulo 2^32 (RFC 1952, section 2.3.1). */
export async function expectedBytes(file: Blob): Promise<number> {
  if (!(await isGzip(file))) return file.size;
  const end = await file.slice(-4).arrayBuffer();
  return end.byteLength < 4 ? file.size : new DataView(end).getUint32(0, true);
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
    if (decoder.isFull) {
      await reader.cancel();
      return;
    }
  }
}

/**
 * A whole file as text, uncompressed.
 * @returns undefined where it holds more bytes than the most, or is a damaged archive
 */
export async function textOf(file: Blob, most: number): Promise<string | undefined> {
  const stream = (await isGzip(file))
    ? file.stream().pipeThrough(new DecompressionStream('gzip'))
    : file.stream();
  const decoder = new TextDecoder();
  const reader = (stream as ReadableStream<Uint8Array>).getReader();
  let text = '';
  let read = 0;
  for (;;) {
    try {
      const { done, value } = await reader.read();
      if (done) return text + decoder.decode();
      read += value.length;
      text += decoder.decode(value, { stream: true });
    } catch {
      return undefined;
    }
    if (read > most) return undefined;
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
