import { describe, expect, it } from 'vitest';
import type { ShownFile, ShownLine } from '../../workers/analysis/queries/source-queries';
import { shown } from '../../testing/shown';
import { LineDetailComponent } from './line-detail.component';

const LINE: ShownLine = {
  line: 38,
  selfMs: 3,
  totalMs: 831.4,
  samples: 3,
  selfErrorMs: 1.7,
  functionId: 4,
  share: 1,
  called: [],
  calls: [{ functionId: 7, name: 'bendingOfPair', totalMs: 828.4 }],
  count: 0,
  forcedCount: 0,
  forcedMs: 0,
  functionIds: [],
  names: ['bendingOfAllPairs'],
};
const detail = (line: number, ...lines: ShownLine[]) => {
  const file: ShownFile = { file: 'src/desk/deck/trim.ts', text: '', problem: '', lines, functions: [] };
  return shown(LineDetailComponent, { file, line, recordingId: 'friday-sailing' });
};

describe('the line of the cursor', () => {
  it('tells how long was seen on it, how sure that is, and what was called from it', async () => {
    const { texts } = await detail(38, LINE);
    expect(texts('section > span').join(' ')).toBe(
      'line 38 3.00 ms ± 1.70 ms on this line by 3 samples, 100 % of its function; 831.4 ms with what was called from here calls bendingOfPair 828.4 ms',
    );
    expect(texts('a')).toEqual(['bendingOfPair']);
  });

  it('tells of functions that begin there where lines are not known', async () => {
    const { texts } = await detail(38, {
      ...LINE,
      samples: 0,
      calls: [],
      count: 300,
      forcedCount: 2,
      forcedMs: 9,
    });
    expect(texts('section > span').join(' ')).toBe(
      'line 38 bendingOfAllPairs: 3.00 ms in its own code; bendingOfAllPairs: 831.4 ms with all it called; called 300 times; layout forced here 2 times, 9.00 ms',
    );
  });

  it('tells of a line that called nothing once', async () => {
    const { texts } = await detail(38, { ...LINE, totalMs: 3, calls: [] });
    expect(texts('section > span').join(' ')).toBe(
      'line 38 3.00 ms ± 1.70 ms on this line by 3 samples, 100 % of its function',
    );
  });

  it('says nothing of the time of a function that begins there and was seen on other lines', async () => {
    const { texts } = await detail(38, { ...LINE, selfMs: 0, totalMs: 0, samples: 0, calls: [], count: 300 });
    expect(texts('section > span').join(' ')).toBe('line 38 called 300 times');
  });

  it('says of others that no time was seen', async () => {
    const { texts } = await detail(39, LINE);
    expect(texts('section > span').join(' ')).toBe('line 39 no time was seen here');
  });
});
