import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { NettleDatabase } from './database';
import type { StoredTrial } from './database';
import { TrialStore, readStoredTrial } from './trial-store';

const kept = (id: string, changedAt: string): StoredTrial => ({
  id,
  changedAt,
  trial: {
    name: id,
    place: 'worker',
    setUp: '',
    alternatives: [
      { name: 'a', code: 'return 1;' },
      { name: 'b', code: 'return 2;' },
    ],
  },
  runs: [
    {
      where: 'this browser',
      result: {
        engine: 'Blink 156',
        place: 'worker',
        clockStepMs: 0.1,
        starts: 1,
        level: 0.01,
        ended: 'time',
        alternatives: [
          { name: 'a', problem: undefined, checked: undefined, runMs: [1], medianMs: 1, bytes: undefined },
          {
            name: 'b',
            problem: { kind: 'endless', message: '' },
            checked: undefined,
            runMs: [],
            medianMs: undefined,
            bytes: undefined,
          },
        ],
        pairs: [],
      },
    },
  ],
});

describe('trials', () => {
  it('are kept, listed the newest first, and deleted', async () => {
    const store = new TrialStore(new NettleDatabase(`test ${crypto.randomUUID()}`));
    await store.put(kept('older', '2026-11-01T10:00:00Z'));
    await store.put(kept('newer', '2026-11-02T10:00:00Z'));
    expect((await store.list()).map(({ id }) => id)).toEqual(['newer', 'older']);
    expect(await store.get('older')).toEqual(kept('older', '2026-11-01T10:00:00Z'));
    await store.remove('older');
    expect(await store.get('older')).toBeUndefined();
  });

  it('are read as they must be: without what came of them where that makes no sense, or not at all', () => {
    const one = kept('one', '2026-11-01T10:00:00Z');
    expect(readStoredTrial({ ...one, runs: [{ where: 3 }] })).toEqual({ ...one, runs: [] });
    expect(readStoredTrial({ ...one, trial: { name: 'no alternatives' } })).toBeUndefined();
    expect(readStoredTrial(undefined)).toBeUndefined();
  });
});
