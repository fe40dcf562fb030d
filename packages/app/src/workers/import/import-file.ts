import { keptFrom, type RecordingStore } from '../../store/recording-store';
import { readImport, type ReadImport } from './read-import';

/** A recording on the shelf that came from a file. */
export interface ImportedFile {
  readonly id: string;
  /** What was read; absent where the shelf had a recording of this id already, which stays as it is. */
  readonly read?: Pick<ReadImport, 'recording' | 'notices'>;
}

/**
 * Reads a file, a recording or another open format, and puts what could be read of it on the shelf.
 * @throws RefusedRecordingError, StoreFullError
 */
export async function importFile(
  store: RecordingStore,
  file: Blob,
  onProgress: (bytesRead: number) => void,
): Promise<ImportedFile> {
  const { recording, notices, pieces } = await readImport(file, onProgress);
  const { header, range } = recording;
  const known = await store.get(header.id);
  if (known !== undefined) return { id: known.id };
  const damaged = notices.length > 0;
  await store.createWhole({ ...keptFrom(header, 'ended'), lengthMs: range.endMs, damaged }, pieces);
  return { id: header.id, read: { recording, notices } };
}
