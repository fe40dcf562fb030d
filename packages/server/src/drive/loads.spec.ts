import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { FileError } from '../commands/read-recording';
import { Loads, loadFile, type VersusOptions } from './loads';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'loads-'));
});
afterEach(() => rm(folder, { recursive: true }));

const options = (changes: Partial<VersusOptions> = {}): VersusOptions => ({
  urls: { before: new URL('http://localhost:3000/'), after: new URL('http://localhost:3001/') },
  steps: [{ do: 'click', on: '#board-all' }],
  settings: {},
  browser: 'chromium',
  rounds: 8,
  out: folder,
  ...changes,
});

describe('loads that were kept', () => {
  it('are known again by the same run, in another browser too', async () => {
    await Loads.of(options());
    await writeFile(join(folder, loadFile('chromium', 'before', 1)), '');
    const loads = await Loads.of(options({ rounds: 12 }));
    expect([loads.isKept('before', 1), loads.isKept('after', 1)]).toEqual([true, false]);
    expect((await Loads.of(options({ browser: 'firefox' }))).isKept('before', 1)).toBe(false);
    expect(await readdir(folder)).toContain('versus.json');
  });

  it('are not taken for those of a run with other addresses, steps, mode or speed', async () => {
    await Loads.of(options());
    const other = [
      [
        { urls: { before: new URL('http://localhost:4000/'), after: options().urls.after } },
        /a was .*3000.*4000/,
      ],
      [{ steps: [{ do: 'wait', ms: 10 }] }, /other steps/],
      [{ settings: { mode: 'fine' } }, /mode was everyday, and is fine now/],
      [{ slow: 4 }, /slow was 1, and is 4 now/],
    ] as const;
    for (const [changes, words] of other) {
      const refused = Loads.of(options(changes as Partial<VersusOptions>));
      await expect(refused).rejects.toThrow(FileError);
      await expect(refused).rejects.toThrow(words);
    }
  });

  it('need a folder, and a note that can be read', async () => {
    const file = join(folder, 'file');
    await writeFile(file, '');
    await expect(Loads.of(options({ out: file }))).rejects.toThrow(/is no folder that can be written to/);
    await writeFile(join(folder, 'versus.json'), 'null');
    await expect(Loads.of(options())).rejects.toThrow(FileError);
  });
});
