/** Why a file or stream was refused as a recording. */
export type RefusalCode = 'not-a-recording' | 'newer-version' | 'empty' | 'unreadable';

/** Thrown when nothing of the input can be read as a recording. */
export class RefusedRecordingError extends Error {
  override readonly name = 'RefusedRecordingError';

  constructor(
    readonly code: RefusalCode,
    /** What was expected and what came, in words. */
    readonly detail: string,
  ) {
    super(`${code}: ${detail}`);
  }
}

/** Something that was lost or doubtful while reading; the rest of the recording was read. */
export interface ReadNotice {
  readonly code: 'bad-line' | 'cut-off' | 'altered' | 'dropped' | 'damaged-archive' | 'too-large';
  readonly detail: string;
  /** Number of the line it concerns, from 1, where there is one. */
  readonly line?: number;
}
