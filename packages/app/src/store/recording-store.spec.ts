import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { NettleDatabase, type StoredRecording } from './database';
import { RecordingStore, StoreFullError } from './recording-store';

const bytes = (text: string) => new TextEncoder().encode(text);
const textOf = (pieces: Uint8Array[]) => pieces.map((piece) => new TextDecoder().decode(piece)).join('');

function kept(id: string, changes: Partial<StoredRecording> = {}): StoredRecording {
  return {
    id,
    title: `Sailing ${id}`,
    createdAt: `2026-11-2${id}T12:40:00.000Z`,
    targetTitle: 'Boarding desk',
    targetUrl: 'http://localhost:4781/',
    engine: 'Blink 156',
    device: 'computer',
    mode: 'everyday',
    state: 'recording',
    lengthMs: 0,
    bytes: 0,
    nextBatch: 0,
    damaged: false,
    tags: [],
    ...changes,
  };
}

let database: NettleDatabase;
let store: RecordingStore;

beforeEach(async () => {
  database = new NettleDatabase(`test ${crypto.randomUUID()}`);
  store = new RecordingStore(database);
  await store.create(kept('1'));
});

describe('the store', () => {
  it('keeps pieces in order, and how far the recording reaches', async () => {
    await store.append('1', [bytes('a\n'), bytes('b\n')], { lengthMs: 100, nextBatch: 1 });
    await store.append('1', [bytes('c\n')], { lengthMs: 90 });
    expect(textOf(await store.pieces('1'))).toBe('a\nb\nc\n');
    expect(await store.get('1')).toMatchObject({ bytes: 6, lengthMs: 100, nextBatch: 1 });
  });

  it('lists the newest first, and those that did not end', async () => {
    await store.create(kept('3'));
    await store.create(kept('2', { state: 'ended' }));
    expect((await store.list()).map(({ id }) => id)).toEqual(['3', '2', '1']);
    expect((await store.unfinished()).map(({ id }) => id).sort()).toEqual(['1', '3']);
    await store.finish('3');
    expect((await store.unfinished()).map(({ id }) => id)).toEqual(['1']);
  });

  it('takes a recording away whole and puts it back whole, and touches no other', async () => {
    await store.create(kept('2'));
    for (const id of ['1', '2']) await store.append(id, [bytes(`${id}\n`)], { lengthMs: 5 });
    await store.rename('1', 'Friday sailing');
    const removed = await store.remove('1');
    expect(await store.get('1')).toBeUndefined();
    expect(await store.pieces('1')).toEqual([]);
    expect(textOf(await store.pieces('2'))).toBe('2\n');
    await store.putBack(removed!);
    expect(await store.get('1')).toMatchObject({ title: 'Friday sailing', lengthMs: 5 });
    expect(textOf(await store.pieces('1'))).toBe('1\n');
    expect(await store.remove('9')).toBeUndefined();
  });

  it('says when there is no room, and has written nothing then', async () => {
    await store.append('1', [bytes('a\n')], { lengthMs: 1 });
    database.chunks.hook('creating', () => {
      throw new DOMException('no room', 'QuotaExceededError');
    });
    await expect(store.append('1', [bytes('b\n')], { lengthMs: 2 })).rejects.toBeInstanceOf(StoreFullError);
    expect(textOf(await store.pieces('1'))).toBe('a\n');
    expect(await store.get('1')).toMatchObject({ lengthMs: 1 });
  });
});
