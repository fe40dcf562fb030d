import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { deskHeader } from '../testing/arbitrary-recording';
import { sourceLines } from './source-lines';

const SCRIPTS = 20;

describe('the sources of a recording', () => {
  it('are fetched some at a time, and each once, however many sources are of one address', async () => {
    const urls = Array.from({ length: SCRIPTS }, (_, at) => `http://localhost:4781/deck-${at}.js`);
    const rows = [...urls, ...urls.slice(0, 5)].flatMap((url, id): Row[] => [
      { kind: 'source', id, url },
      { kind: 'function', id, name: 'weigh', source: id, line: 1, column: 1 },
    ]);
    const asked: string[] = [];
    let [now, most] = [0, 0];
    const origin = {
      fetchScript: async (url: string) => {
        asked.push(url);
        most = Math.max(most, ++now);
        await new Promise((resolve) => setTimeout(resolve));
        now--;
        return { url, problem: 'not there' };
      },
      uninstrumented: async () => [],
    };
    const text = [deskHeader(), ...rows].map((row) => `${JSON.stringify(row)}\n`).join('');
    await sourceLines([new TextEncoder().encode(text)], origin);
    expect(asked.sort()).toEqual(urls.sort());
    expect(most).toBe(6);
  });
});
