import { createReadStream } from 'node:fs';
import { open, readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { Readable, pipeline } from 'node:stream';
import { createGunzip, gunzipSync } from 'node:zlib';
import {
  MAX_IMPORT,
  RecordingBuilder,
  RecordingDecoder,
  RefusedRecordingError,
  readAsRecording,
  type ReadNotice,
  type Recording,
} from '@nettle-patch/core';

/** Thrown for a file that cannot be used; the message names it and says what to do. */
export class FileError extends Error {
  override readonly name = 'FileError';
}

/** A file larger than this takes long enough to say how far it is. */
const LARGE_BYTES = 20_000_000;
const GZIP_MAGIC = [0x1f, 0x8b];

export interface ReadFile {
  readonly recording: Recording;
  readonly notices: readonly ReadNotice[];
}

async function isZipped(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer } = await file.read(Buffer.alloc(2), 0, 2, 0);
    return buffer[0] === GZIP_MAGIC[0] && buffer[1] === GZIP_MAGIC[1];
  } finally {
    await file.close();
  }
}

async function* counted(path: string, onBytes: (count: number) => void): AsyncGenerator<Buffer> {
  for await (const piece of createReadStream(path) as AsyncIterable<Buffer>) {
    onBytes(piece.length);
    yield piece;
  }
}

/** The bytes of a file, uncompressed. @param onBytes is told how many were read of the file itself */
export async function* piecesOf(
  path: string,
  onBytes: (count: number) => void = () => undefined,
): AsyncGenerator<Uint8Array> {
  const pieces = counted(path, onBytes);
  if (!(await isZipped(path))) {
    yield* pieces;
    return;
  }
  const unzipped = createGunzip();
  pipeline(Readable.from(pieces), unzipped, () => undefined);
  yield* unzipped as AsyncIterable<Uint8Array>;
}

/** @throws FileError when there is more in it than is read at once */
function unzipped(path: string, bytes: Buffer): Buffer {
  try {
    return gunzipSync(bytes, { maxOutputLength: MAX_IMPORT });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ERR_BUFFER_TOO_LARGE') throw error;
    const most = Math.round(MAX_IMPORT / 1_000_000);
    throw new FileError(
      `${path}: it unpacks to more than ${most} MB, which is more than can be read of another format. Export less of it.`,
    );
  }
}

/** The file as another open format; undefined where it is none of them, or begins as a recording does. */
async function readOpenFormat(path: string, refused: RefusedRecordingError): Promise<ReadFile | undefined> {
  const { size, mtimeMs } = await stat(path);
  if (refused.code !== 'not-a-recording' || size > MAX_IMPORT) return undefined;
  const bytes = await readFile(path);
  const text = ((await isZipped(path)) ? unzipped(path, bytes) : bytes).toString('utf8');
  try {
    return readAsRecording(text, { name: basename(path), writtenMs: mtimeMs }, refused);
  } catch (error) {
    if (error === refused) return undefined;
    if (!(error instanceof RefusedRecordingError)) throw error;
    throw new FileError(`${path}: ${error.detail}.`);
  }
}

/** Whether the file system refused something; else what is in a file is damaged. */
export function isOfDisk(error: unknown): boolean {
  return (error as NodeJS.ErrnoException).syscall !== undefined;
}

/** Why a file could not be read, in words. */
export function unreadable(path: string, error: unknown): FileError {
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'ENOENT') return new FileError(`${path}: there is no such file.`);
  if (code === 'EISDIR') return new FileError(`${path}: this is a folder, not a file.`);
  return new FileError(`${path} could not be read: ${message}`);
}

/** Words for what could not be read, with its line. */
export function noticeText(path: string, { line, detail }: ReadNotice): string {
  return `${path}${line === undefined ? '' : `, line ${line}`}: ${detail}`;
}

/**
 * Reads a recording or another open format, compressed or not. What was lost is told, and so is progress where the file is large.
 * @throws FileError when it cannot be read or is no recording
 */
export async function readRecordingFile(path: string, say: (text: string) => void): Promise<ReadFile> {
  const builder = new RecordingBuilder();
  const decoder = new RecordingDecoder(builder);
  try {
    const { size } = await stat(path);
    let read = 0;
    let told = 0;
    const progress = (count: number) => {
      read += count;
      const tenth = Math.floor((read / size) * 10);
      if (size < LARGE_BYTES || tenth <= told) return;
      told = tenth;
      say(`Reading ${path}: ${tenth * 10} %`);
    };
    try {
      for await (const piece of piecesOf(path, progress)) {
        decoder.push(piece);
        if (decoder.isFull) break;
      }
    } catch (error) {
      if (error instanceof RefusedRecordingError || isOfDisk(error)) throw error;
      decoder.note({
        code: 'damaged-archive',
        detail: `the archive is damaged (${(error as Error).message})`,
        line: decoder.lineCount,
      });
    }
    const notices = decoder.finish();
    return { recording: builder.build(), notices };
  } catch (error) {
    const other = error instanceof RefusedRecordingError ? await readOpenFormat(path, error) : undefined;
    if (other !== undefined) return other;
    if (error instanceof RefusedRecordingError) {
      throw new FileError(
        `${path}, line 1: ${error.message}. Expected a recording of Nettle Patch (.nettle.jsonl or .nettle.jsonl.gz).`,
      );
    }
    throw unreadable(path, error);
  }
}
