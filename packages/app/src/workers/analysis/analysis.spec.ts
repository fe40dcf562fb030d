import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it, vi } from 'vitest';
import { NettleDatabase } from '../../store/database';
import { RecordingStore } from '../../store/recording-store';
import { Analysis, NotKeptError } from './analysis';

const DEMO = fileURLToPath(new URL('../../../public/demo/friday-sailing.nettle.jsonl.gz', import.meta.url));
const demoFile = () => new Blob([new Uint8Array(readFileSync(DEMO))]);

function begin() {
  const store = new RecordingStore(new NettleDatabase(`shelf ${++shelves}`));
  return { store, analysis: new Analysis(store), readings: vi.spyOn(store, 'pieces') };
}
let shelves = 0;
const quietly = () => undefined;

describe('a recording from a file', () => {
  it('is opened from what was read, and later from the shelf, with the same in it', async () => {
    const { analysis, readings } = begin();
    const id = await analysis.importFile(demoFile(), quietly);
    const first = await analysis.openStored(id, quietly);
    expect(readings).not.toHaveBeenCalled();
    const again = await analysis.openStored(id, quietly);
    expect(readings).toHaveBeenCalledOnce();
    expect(first.stings.length).toBeGreaterThan(5);
    expect(again).toEqual(first);
  });

  it('that was deleted meanwhile is not opened', async () => {
    const { store, analysis } = begin();
    const id = await analysis.importFile(demoFile(), quietly);
    await store.remove(id);
    await expect(analysis.openStored(id, quietly)).rejects.toThrow(NotKeptError);
  });

  it('that the shelf has already is opened as the shelf has it', async () => {
    const { analysis, readings } = begin();
    const id = await analysis.importFile(demoFile(), quietly);
    await analysis.openStored(id, quietly);
    expect(await analysis.importFile(demoFile(), quietly)).toBe(id);
    await analysis.openStored(id, quietly);
    expect(readings).toHaveBeenCalledOnce();
  });
});
