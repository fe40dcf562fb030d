import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { FileError } from '../commands/read-recording';
import { FailedLoadError, Loads, loadFile, type LoadProgress, type VersusOptions } from './loads';
import { StepError } from './run-steps';
import { WebDriverError } from './webdriver';
import { BrowserError } from './browser';
import { deskHeader } from '../../../core/src/testing/arbitrary-recording';

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

describe('a load that comes to no end', () => {
  const lines = [JSON.stringify(deskHeader())];
  const failing = (...causes: readonly unknown[]) => {
    let at = 0;
    return () => {
      const cause = causes[at++];
      const failure = cause === undefined ? {} : { failure: new StepError('step 1 (click): …', { cause }) };
      return Promise.resolve({ lines, browser: 'a browser', ...failure });
    };
  };
  const make = async (record: ReturnType<typeof failing>) => {
    const told: LoadProgress[] = [];
    const loads = await Loads.of(options({ onLoad: (progress) => told.push(progress) }), record);
    return { told, load: loads.make('before', 1, 16) };
  };
  const broke = new WebDriverError('invalid session id', 'session deleted because of page crash or hang.');

  it('is made once more where the browser broke, and that is told', async () => {
    for (const cause of [broke, new BrowserError('closed'), new TypeError('fetch failed')]) {
      const { told, load } = await make(failing(cause, undefined));
      expect((await load).header.id).toBe('boarding');
      expect(told.map(({ brokenBy }) => brokenBy)).toEqual([undefined, 'step 1 (click): …']);
      await rm(join(folder, loadFile('chromium', 'before', 1)));
    }
  });

  it('ends the run where the browser breaks again, and at once where a step cannot be taken', async () => {
    const twice = await make(failing(broke, broke));
    await expect(twice.load).rejects.toThrow(FailedLoadError);
    expect(twice.told).toHaveLength(2);
    const absent = await make(failing(new Error('nothing is found by "#board-all"')));
    await expect(absent.load).rejects.toThrow(/A, round 1: step 1/);
    expect(absent.told).toHaveLength(1);
  });
});
