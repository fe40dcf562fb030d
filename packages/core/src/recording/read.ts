import { RecordingDecoder } from '../format/decoder';
import type { ReadNotice } from '../format/errors';
import { RecordingBuilder } from './builder';
import type { Recording } from './recording';

export interface ReadResult {
  readonly recording: Recording;
  /** What was lost or is doubtful; empty when all was read. */
  readonly notices: readonly ReadNotice[];
}

/**
 * Reads a whole recording from the bytes of its lines.
 * @param onPiece is told after each piece how many were read
 * @throws RefusedRecordingError when it is none.
 */
export function readRecording(
  pieces: readonly Uint8Array[],
  onPiece: (read: number) => void = () => undefined,
): ReadResult {
  const builder = new RecordingBuilder();
  const totalBytes = pieces.reduce((sum, piece) => sum + piece.length, 0);
  const decoder = new RecordingDecoder(builder, totalBytes);
  pieces.forEach((piece, index) => {
    decoder.push(piece);
    onPiece(index + 1);
  });
  const notices = decoder.finish();
  return { recording: builder.build(), notices };
}
