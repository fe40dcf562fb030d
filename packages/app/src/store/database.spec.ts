import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { NettleDatabase } from './database';
import { readPreferences } from './preferences';
import { RecordingStore } from './recording-store';
import old from './testing/database-2.json';

/** Makes the database as version 2 of the store left it, without the code of today. */
async function restoreOld(name: string): Promise<void> {
  const database = await new Promise<IDBDatabase>((resolve, reject) => {
    const request = indexedDB.open(name, old.version);
    request.onerror = () => reject(request.error!);
    request.onsuccess = () => resolve(request.result);
    request.onupgradeneeded = () => {
      for (const [store, { keyPath, indexes }] of Object.entries(old.stores)) {
        const made = request.result.createObjectStore(store, { keyPath });
        for (const index of indexes) made.createIndex(index, index);
      }
    };
  });
  const transaction = database.transaction(Object.keys(old.stores), 'readwrite');
  for (const [store, rows] of Object.entries(old.rows)) {
    for (const row of rows) {
      const { text, ...rest } = row as { text?: string };
      const bytes = text === undefined ? {} : { bytes: new TextEncoder().encode(text) };
      transaction.objectStore(store).put({ ...rest, ...bytes });
    }
  }
  await new Promise<void>((resolve, reject) => {
    transaction.oncomplete = () => resolve();
    transaction.onabort = () => reject(transaction.error!);
  });
  database.close();
}

describe('a store of an older version', () => {
  it('is carried over whole: recordings, their rows, what was set', async () => {
    const name = `test ${crypto.randomUUID()}`;
    await restoreOld(name);
    const database = new NettleDatabase(name);
    const store = new RecordingStore(database);
    const kept = await store.list();
    expect(kept.map(({ id, tags }) => [id, tags])).toEqual([
      ['cut-off', []],
      ['friday-sailing', []],
    ]);
    expect(kept[1]).toMatchObject(old.rows.recordings[0]!);
    const pieces = await store.pieces('friday-sailing');
    expect(pieces.map((piece) => new TextDecoder().decode(piece)).join('')).toBe('header\nrows\nend\n');
    expect((await store.unfinished()).map(({ id }) => id)).toEqual(['cut-off']);
    const preferences = readPreferences((await database.preferences.get('preferences'))?.value);
    expect(preferences).toMatchObject({ theme: 'dark', ownPaths: ['src/**'] });
  });

  it('takes tags from then on, and finds recordings by them', async () => {
    const name = `test ${crypto.randomUUID()}`;
    await restoreOld(name);
    const database = new NettleDatabase(name);
    await new RecordingStore(database).setTags('friday-sailing', ['quay']);
    expect((await database.recordings.where('tags').equals('quay').toArray()).map(({ id }) => id)).toEqual([
      'friday-sailing',
    ]);
  });
});
