import { transformSync } from 'esbuild';
import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { isLibraryPath, originalPath } from '../recording/original-path';
import { resolveFunctions } from './resolve';
import type { ScriptText } from './script-text';

const ORIGIN = 'http://localhost:4781/';

/** A script of one function, bundled from one source file. */
function script(file: string, name: string, sourcefile: string): ScriptText & { text: string; map: string } {
  const { code, map } = transformSync(`export function ${name}() {\n  return 1 + 2;\n}\n`, {
    loader: 'ts',
    minifyWhitespace: true,
    sourcemap: 'external',
    sourcefile,
    format: 'esm',
  });
  return { url: `${ORIGIN}${file}`, text: code, map, mapUrl: `${ORIGIN}${file}.map` };
}

/** File, name and owner of the first function of each script. */
function resolved(...scripts: (ScriptText & { text: string })[]) {
  const rows = scripts.flatMap(({ url, text }, id): Row[] => [
    { kind: 'source', id, url },
    { kind: 'function', id, name: '', source: id, position: text.indexOf('function') },
  ]);
  const found = resolveFunctions(recordingOf(rows), new Map(scripts.map((one) => [one.url, one])));
  const problems = found.flatMap((row) => (row.kind === 'source' && row.problem ? [row.problem] : []));
  const functions = found.flatMap((row) =>
    row.kind === 'function' ? [[row.originalFile, row.originalName, row.owner]] : [],
  );
  return { functions, problems };
}

const deck = script('desk.js', 'computeTrim', 'src/deck/trim.ts');
const changed = (change: (map: Record<string, unknown>) => object) => ({
  ...deck,
  map: JSON.stringify(change(JSON.parse(deck.map) as Record<string, unknown>)),
});

describe('source maps', () => {
  it('that are damaged stop no other, and say what is wrong', () => {
    const damaged = [
      { ...script('a.js', 'a', 'src/a.ts'), map: '{"version":3' },
      { ...script('b.js', 'b', 'src/b.ts'), map: 'null' },
      {
        ...script('c.js', 'c', 'src/c.ts'),
        map: '{"version":3,"sources":["c.ts"],"names":[],"mappings":"!!!"}',
      },
      {
        ...script('d.js', 'd', 'src/d.ts'),
        map: '{"version":3,"sources":[null],"names":[],"mappings":"AAAA"}',
      },
      { ...script('e.js', 'e', 'src/e.ts'), map: '{"version":3,"sections":[{"offset":{},"map":7}]}' },
    ];
    const { functions, problems } = resolved(...damaged, deck);
    expect(functions.at(-1)).toEqual(['src/deck/trim.ts', 'computeTrim', 'own']);
    expect(problems.length).toBeGreaterThanOrEqual(3);
    for (const problem of problems) expect(problem).toContain('its source map');
  });

  it('of several sections are read as one', () => {
    const { functions, problems } = resolved(
      changed((map) => ({ version: 3, sections: [{ offset: { line: 0, column: 0 }, map }] })),
    );
    expect(problems).toEqual([]);
    expect(functions).toEqual([['src/deck/trim.ts', 'computeTrim', 'own']]);
  });

  it('are read behind what keeps JSON from being run', () => {
    expect(resolved({ ...deck, map: `)]}'\n${deck.map}` }).functions).toEqual([
      ['src/deck/trim.ts', 'computeTrim', 'own'],
    ]);
  });

  it('tell by their ignore list what is a library', () => {
    expect(resolved(changed((map) => ({ ...map, ignoreList: [0] }))).functions).toEqual([
      ['src/deck/trim.ts', 'computeTrim', 'library'],
    ]);
    expect(resolved(changed((map) => ({ ...map, x_google_ignoreList: [0] }))).functions[0]![2]).toBe(
      'library',
    );
  });

  it('name sources as people know them, without what a bundler puts before a name that has no place', () => {
    expect(originalPath('webpack://null/./src/deck/trim.ts')).toBe('src/deck/trim.ts');
    expect(originalPath('webpack:///null/src/deck/trim.ts')).toBe('src/deck/trim.ts');
    expect(originalPath('null/src/deck/trim.ts')).toBe('src/deck/trim.ts');
    expect(originalPath(null)).toBe('');
  });

  it('of two bundles with a file of the same path lead to two files, and of one file in two chunks to one', () => {
    const other = { ...script('admin.js', 'showAdmin', 'src/deck/trim.ts') };
    expect(resolved(deck, other).functions.map(([file]) => file)).toEqual([
      'src/deck/trim.ts',
      'src/deck/trim.ts (admin.js)',
    ]);
    const chunk = { ...deck, url: `${ORIGIN}chunk.js` };
    expect(new Set(resolved(deck, chunk).functions.map(([file]) => file))).toEqual(
      new Set(['src/deck/trim.ts']),
    );
  });
});

describe('whose code it is', () => {
  it.each([
    ['http://localhost:5173/node_modules/.vite/deps/weft-dom_client.js?v=1a', true],
    ['http://localhost:5173/@id/__x00__virtual:weft', true],
    ['http://localhost:5173/@vite/client', true],
    ['node_modules/weft/index.js', true],
    ['webpack/runtime/chunk loading', true],
    ['webpack/bootstrap', true],
    ['src/vendored.ts', false],
    ['src/deck/trim.ts', false],
    ['http://localhost:4781/desk.js', false],
  ])('%s is a library’s: %s', (path, expected) => {
    expect(isLibraryPath(path)).toBe(expected);
  });

  it('is told by the address of its script too, with no map at hand', () => {
    const recording = recordingOf([
      { kind: 'source', id: 0, url: 'http://localhost:5173/node_modules/.vite/deps/weft-dom_client.js' },
      { kind: 'function', id: 0, name: 'commitRoot', source: 0, line: 1, column: 1 },
    ]);
    expect(recording.functions.get(0)!.owner).toBe('library');
  });
});
