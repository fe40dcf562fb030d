import { keptFrom, type RecordingStore } from '../store/recording-store';
import { readAnyFile } from './any-file';

/**
 * Reads a file, a recording or another open format, and puts what could be read of it on the shelf.
 * @returns id of the recording
 * @throws RefusedRecordingError, StoreFullError
 */
export async function keepFile(
  store: RecordingStore,
  file: Blob,
  onProgress: (bytesRead: number) => void,
): Promise<string> {
  const { recording, notices, pieces } = await readAnyFile(file, onProgress);
  const { header, range } = recording;
  const known = await store.get(header.id);
  if (known !== undefined) return known.id;
  const damaged = notices.length > 0;
  await store.createWhole({ ...keptFrom(header, 'ended'), lengthMs: range.endMs, damaged }, pieces);
  return header.id;
}
