import { transformSync } from 'esbuild';
import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { evaluatedScripts } from './evaluated-scripts';
import { functionSites, siteAt } from './function-sites';
import { resolveFunctions, sourcesToFetch } from './resolve';
import { textPart } from './text-part';
import { LineIndex } from './text-position';

const SOURCE = `export function computeTrim(vehicles: number[]): number {
  return vehicles.reduce((sum, weight) => sum + weight, 0);
}
const listOf = (trim: number) => trim * 2;
export class Deck {
  stow(lanes: number[]) {
    return computeTrim(lanes) + listOf(lanes.length);
  }
}
document.addEventListener('click', function onBoardAll() {
  new Deck().stow([1]);
});
`;
const URL_OF_SCRIPT = 'http://localhost:4781/desk.js';

/** The script as a bundler would serve it, and the offset at which an engine says each function begins. */
function bundled() {
  const { code, map } = transformSync(SOURCE, {
    loader: 'ts',
    minify: true,
    sourcemap: 'external',
    sourcefile: '../src/deck/trim.ts',
    format: 'esm',
  });
  const lines = new LineIndex(code);
  const at = (offset: number) => ({ ...lines.position(offset) });
  return { code, map, at };
}

function resolveAll(offsets: (code: string) => number[], withMap = true) {
  const { code, map, at } = bundled();
  const rows: Row[] = offsets(code).map((offset, id) => ({
    kind: 'function',
    id,
    name: 'x',
    source: 0,
    ...at(offset),
  }));
  const recording = recordingOf([{ kind: 'source', id: 0, url: URL_OF_SCRIPT }, ...rows]);
  const script = {
    url: URL_OF_SCRIPT,
    text: code,
    ...(withMap ? { map, mapUrl: `${URL_OF_SCRIPT}.map` } : {}),
  };
  const resolved = resolveFunctions(recording, new Map([[URL_OF_SCRIPT, script]]));
  return resolved
    .filter((row) => row.kind === 'function')
    .map(({ originalName, originalFile, originalLine }) => [originalName, originalFile, originalLine]);
}

describe('minified functions', () => {
  it('get back their name, file and line, of every kind of function', () => {
    const found = resolveAll((code) => [
      code.indexOf('('),
      code.indexOf('=>', code.indexOf('const ')) - 1,
      code.indexOf('stow(') + 4,
      code.indexOf('function(', code.indexOf('addEventListener')) + 8,
    ]);
    expect(found).toEqual([
      ['computeTrim', 'src/deck/trim.ts', 1],
      ['listOf', 'src/deck/trim.ts', 4],
      ['stow', 'src/deck/trim.ts', 6],
      ['onBoardAll', 'src/deck/trim.ts', 10],
    ]);
  });

  it('are named by the script where a map that knows lines only leads to no name', () => {
    const text = 'const deck = 1;\nasync function weighDeck() {}\nconst stow = () => {};\n';
    // Each line to the beginning of the same line (ECMA-426, section 9).
    const map = JSON.stringify({
      version: 3,
      sources: ['deck.js'],
      sourcesContent: [text],
      names: [],
      mappings: 'AAAA;AACA;AACA',
    });
    const rows: Row[] = [text.indexOf('weigh'), text.indexOf('() => {}')].map((position, id) => ({
      kind: 'function',
      id,
      name: 'x',
      source: 0,
      position,
    }));
    const recording = recordingOf([{ kind: 'source', id: 0, url: URL_OF_SCRIPT }, ...rows]);
    const script = { url: URL_OF_SCRIPT, text, map };
    const resolved = resolveFunctions(recording, new Map([[URL_OF_SCRIPT, script]]));
    expect(
      resolved.flatMap((row) => (row.kind === 'function' ? [[row.originalName, row.originalLine]] : [])),
    ).toEqual([
      ['weighDeck', 2],
      ['stow', 3],
    ]);
  });

  it('without a name of their own are named by what they stand in', () => {
    const [[name, file, line]] = resolveAll((code) => [code.indexOf('reduce(') + 7]) as [
      [string, string, number],
    ];
    expect([name, file, line]).toEqual(['anonymous in computeTrim', 'src/deck/trim.ts', 2]);
  });

  it('keep the name they ran under where there is no map', () => {
    expect(resolveAll((code) => [code.indexOf('stow(') + 4], false)).toEqual([
      ['stow', undefined, undefined],
    ]);
  });
});

describe('resolving', () => {
  it('finds that a function entered by offset and one sampled by line are the same', () => {
    const { code, map, at } = bundled();
    const start = code.indexOf('(');
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'function', id: 0, name: 'x', source: 0, ...at(start) },
      { kind: 'function', id: 1, name: 'x', source: 0, position: start },
    ]);
    const rows = resolveFunctions(
      recording,
      new Map([[URL_OF_SCRIPT, { url: URL_OF_SCRIPT, text: code, map }]]),
    );
    expect(rows.find((row) => row.kind === 'function' && row.id === 1)).toMatchObject({
      sameAs: 0,
      originalName: 'computeTrim',
    });
  });

  it('finds a function by a part of its text where nothing else of it is known', () => {
    const { code, map } = bundled();
    const handler = /function\(\)\{.*?\}/.exec(code.slice(code.indexOf('addEventListener')))![0];
    const part = textPart(handler)!;
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'function', id: 0, name: 'x', owner: 'own', ...part },
      { kind: 'function', id: 1, name: 'y', owner: 'own', ...textPart('function () { return 1 + 1; }')! },
    ]);
    const scripts = new Map([[URL_OF_SCRIPT, { url: URL_OF_SCRIPT, text: code, map }]]);
    expect(sourcesToFetch(recording)).toHaveLength(1);
    const functions = resolveFunctions(recording, scripts).filter((row) => row.kind === 'function');
    expect(functions).toMatchObject([
      { id: 0, originalName: 'onBoardAll', originalFile: 'src/deck/trim.ts', originalLine: 10 },
    ]);
  });

  it('finds a function of which `bind` has left the name, where no other has it and every script is known', () => {
    const other = 'http://localhost:4781/other.js';
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'source', id: 1, url: other },
      { kind: 'function', id: 0, name: 'bound onBoardAll' },
    ]);
    const text = SOURCE.replace(/: number(\[\])?/g, '');
    const placed = (otherScript: object) =>
      resolveFunctions(
        recording,
        new Map([
          [URL_OF_SCRIPT, { url: URL_OF_SCRIPT, text }],
          [other, { url: other, ...otherScript }],
        ]),
      ).flatMap((row) => (row.kind === 'function' ? [[row.source, row.line, row.originalName]] : []));
    expect(placed({ text: 'const f = () => 1;' })).toEqual([[0, 10, 'onBoardAll']]);
    expect(placed({ text: 'function onBoardAll() {}' })).toEqual([]);
    expect(placed({ problem: 'it was not there' })).toEqual([]);
  });

  it('asks for no more scripts where one came from the page itself', () => {
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'source', id: 1, url: 'blob:' },
      { kind: 'function', id: 0, name: 'ebb', source: 1, line: 1, column: 1 },
    ]);
    expect(sourcesToFetch(recording).map(({ id }) => id)).toEqual([1]);
  });

  it('finds scripts that another holds as text and has evaluated, by the addresses they give themselves', () => {
    const { code, map } = bundled();
    const address = 'deck-internal:///./out/trim.js';
    const inline = `//# sourceMappingURL=data:application/json;charset=utf-8;base64,${btoa(map)}`;
    const bundle = [
      `eval(${JSON.stringify(`${code}${inline}\n//# sourceURL=${address}\n`)});`,
      `eval(trusted.ts(${JSON.stringify('function stow() {}\n//# sourceURL=deck-internal:///./src/stow.js')}));`,
      `eval("damaged \\q //# sourceURL=deck-internal:///x.js"); eval(text);`,
    ].join('\n');
    const lines = new LineIndex(code);
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'source', id: 1, url: 'null/out/trim.js' },
      { kind: 'source', id: 2, url: 'null/src/stow.js' },
      { kind: 'function', id: 0, name: 'x', source: 1, ...lines.position(code.indexOf('(')) },
      { kind: 'function', id: 1, name: 'stow', source: 2, line: 1, column: 1 },
    ]);
    expect(sourcesToFetch(recording).map(({ id }) => id)).toEqual([0, 1, 2]);
    const rows = resolveFunctions(
      recording,
      new Map([
        [URL_OF_SCRIPT, { url: URL_OF_SCRIPT, text: bundle }],
        ['null/out/trim.js', { url: 'null/out/trim.js', problem: 'it comes from another origin' }],
      ]),
    );
    expect(rows.find((row) => row.kind === 'source' && row.id === 1)).toEqual({
      kind: 'source',
      id: 1,
      url: address,
      map: address,
    });
    expect(rows.filter((row) => row.kind === 'function')).toMatchObject([
      { id: 0, originalName: 'computeTrim', originalFile: 'src/deck/trim.ts', originalLine: 1 },
      { id: 1, originalName: 'stow', source: 2, line: 1 },
    ]);
  });

  it('looks for evaluated texts in step with the length of a script, whatever stands in it', () => {
    const address = '\\n//# sourceURL=deck-internal:///./src/stow.js';
    const quotes = `eval("${'\\\\'.repeat(200_000)}${address}");`;
    const texts = [
      'eval("a'.repeat(50_000),
      `eval(${'a.'.repeat(100_000)}`,
      `eval("${'\\"'.repeat(300_000)}`,
      quotes,
    ];
    const startMs = performance.now();
    expect(texts.map((text) => evaluatedScripts(text).size)).toEqual([0, 0, 0, 2]);
    expect(performance.now() - startMs).toBeLessThan(5000);
  });

  it('finds by its text what is in a script that another evaluates, of which nothing else was met', () => {
    const part = textPart('function ebb() { return Math.floor(2.5); }')!;
    const recording = recordingOf([
      { kind: 'source', id: 4, url: URL_OF_SCRIPT },
      { kind: 'function', id: 0, name: 'ebb', owner: 'own', ...part },
    ]);
    const address = 'deck-internal:///./node_modules/tides/ebb.js';
    const within = `// tides\nfunction ebb() { return Math.floor(2.5); }\n//# sourceURL=${address}`;
    const script = { url: URL_OF_SCRIPT, text: `eval(${JSON.stringify(within)});` };
    const rows = resolveFunctions(recording, new Map([[URL_OF_SCRIPT, script]]));
    expect(rows.filter(({ kind }) => kind !== 'text')).toMatchObject([
      { kind: 'source', id: 4 },
      { kind: 'source', id: 5, url: address },
      { kind: 'function', id: 0, source: 5, line: 2, owner: 'library' },
    ]);
  });

  it('maps a place inside a function to its own line', () => {
    const { code, map, at } = bundled();
    const place = at(code.indexOf('computeTrim(', code.indexOf('stow')));
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'function', id: 0, name: '', source: 0, ...at(code.indexOf('reduce(')), place: true },
    ]);
    expect(place.line).toBe(1);
    const scripts = new Map([[URL_OF_SCRIPT, { url: URL_OF_SCRIPT, text: code, map }]]);
    expect(resolveFunctions(recording, scripts).find((row) => row.kind === 'function')).toMatchObject({
      originalName: 'computeTrim',
      originalLine: 2,
    });
  });

  it('says of each script why it could not be mapped', () => {
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'function', id: 0, name: 'x', source: 0, line: 1, column: 1 },
    ]);
    const problemOf = (script: object) =>
      resolveFunctions(recording, new Map([[URL_OF_SCRIPT, { url: URL_OF_SCRIPT, ...script }]]))[0];
    expect(problemOf({ problem: 'the server answered 404' })).toMatchObject({
      problem: 'the server answered 404',
    });
    expect(problemOf({ text: 'let let = {' })).toMatchObject({ problem: 'its text could not be parsed' });
    expect(problemOf({ text: 'f()', map: 'no map' })).toMatchObject({
      problem: expect.stringContaining('its source map could not be read') as string,
    });
  });

  it('fetches only scripts whose functions were met, and never the recorder itself', () => {
    const recording = recordingOf([
      { kind: 'source', id: 0, url: URL_OF_SCRIPT },
      { kind: 'source', id: 1, url: 'http://localhost:4781/unused.js' },
      { kind: 'source', id: 2, url: 'http://localhost:4781/__nettle-patch/recorder.js' },
      { kind: 'function', id: 0, name: 'x', source: 0 },
      { kind: 'function', id: 1, name: 'y', source: 2 },
    ]);
    expect(sourcesToFetch(recording).map(({ id }) => id)).toEqual([0]);
  });
});

describe('places in a script', () => {
  it('belong to the innermost function whose head holds them', () => {
    const text = 'const stow = (lanes) => lanes.map((lane) => lane + 1);';
    const sites = functionSites(text)!;
    expect(siteAt(sites, text.indexOf('(lanes)'))?.name).toBe('stow');
    expect(siteAt(sites, text.indexOf('(lane)'))?.start).toBe(text.indexOf('(lane)'));
    expect(functionSites('not { a script')).toBeUndefined();
  });

  it('go from offset to line and column and back', () => {
    const lines = new LineIndex('ab\ncd\n\nef');
    for (let offset = 0; offset <= 9; offset++) expect(lines.offset(lines.position(offset))).toBe(offset);
    expect(lines.position(7)).toEqual({ line: 4, column: 1 });
  });
});
