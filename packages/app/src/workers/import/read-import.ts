import {
  MAX_IMPORT,
  RecordingBuilder,
  RecordingDecoder,
  RefusedRecordingError,
  readAsRecording,
  type ReadNotice,
  type Recording,
} from '@nettle-patch/core';
import { expectedBytes, readFile, textOf } from './archive';

/** A file that could be read: as a recording, and the bytes of its lines. */
export interface ReadImport {
  readonly recording: Recording;
  readonly notices: readonly ReadNotice[];
  readonly pieces: readonly Uint8Array[];
}

/**
 * Reads a recording, or another open format as a recording.
 * @throws RefusedRecordingError where it is neither
 */
export async function readImport(file: Blob, onProgress: (bytesRead: number) => void): Promise<ReadImport> {
  const builder = new RecordingBuilder();
  const decoder = new RecordingDecoder(builder, await expectedBytes(file));
  const pieces: Uint8Array[] = [];
  try {
    await readFile(file, decoder, (piece) => pieces.push(piece), onProgress);
    const notices = decoder.finish();
    return { recording: builder.build(), notices, pieces };
  } catch (error) {
    if (!(error instanceof RefusedRecordingError) || error.code !== 'not-a-recording') throw error;
    return readOpenFormat(file, error);
  }
}

async function readOpenFormat(file: Blob, refused: RefusedRecordingError): Promise<ReadImport> {
  const text = await textOf(file, MAX_IMPORT);
  if (text === undefined) throw refused;
  const facts =
    file instanceof File
      ? { name: file.name, writtenMs: file.lastModified }
      : { name: 'recording', writtenMs: Date.now() };
  const { bytes, ...read } = readAsRecording(text, facts, refused);
  return { ...read, pieces: [bytes] };
}
