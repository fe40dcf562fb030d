import type { StoredRecording } from '../store/database';

/** A recording of the boarding desk as it is kept. @param changes what is said of it otherwise */
export const storedRecording = (id: string, changes: Partial<StoredRecording> = {}): StoredRecording => ({
  id,
  title: id,
  createdAt: '2026-11-20T12:00:00.000Z',
  targetTitle: 'Boarding desk',
  targetUrl: 'http://localhost:4781/',
  engine: 'Blink 156',
  device: 'computer, Linux',
  mode: 'everyday',
  state: 'ended',
  lengthMs: 1000,
  bytes: 10,
  nextBatch: 0,
  damaged: false,
  tags: [],
  ...changes,
});
