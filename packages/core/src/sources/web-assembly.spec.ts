import { describe, expect, it } from 'vitest';
import { recordingOf } from '../testing/arbitrary-recording';
import { resolveFunctions, sourcesToFetch } from './resolve';

describe('functions of WebAssembly', () => {
  it('have the names of their module and no line, and nothing is fetched for them', () => {
    const url = 'http://localhost:4781/cargo.wasm';
    const recording = recordingOf([
      { kind: 'source', id: 0, url },
      { kind: 'function', id: 0, name: 'weighCrates', source: 0, line: 2, column: 51 },
    ]);
    expect(sourcesToFetch(recording)).toEqual([]);
    expect(resolveFunctions(recording, new Map())).toEqual([
      {
        kind: 'function',
        id: 0,
        name: 'weighCrates',
        source: 0,
        originalName: 'weighCrates',
        originalFile: 'cargo.wasm',
      },
    ]);
  });
});
