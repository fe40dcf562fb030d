import { TraceMap, originalPositionFor } from '@jridgewell/trace-mapping';
import { scriptAsWritten, type ScriptRegistration } from '@nettle-patch/core';
import { transformSync } from 'esbuild';
import { describe, expect, it } from 'vitest';
import { rewriteScript, UnrewritableError } from './rewrite-script';
import { runScript } from './testing/run';
import { TRICKY_SCRIPTS } from './testing/tricky-scripts';

const rewrite = (text: string, options: object = {}) =>
  rewriteScript(text, { url: '/desk.js', firstId: 1000, ...options });

describe('a rewritten script', () => {
  for (const mode of ['exact', 'fine', 'closer'] as const) {
    for (const [name, text] of Object.entries(TRICKY_SCRIPTS)) {
      it(`does the same, ${mode}: ${name}`, async () => {
        const before = await runScript(text);
        const { code } = rewrite(text, { isModule: false, mode });
        for (const takesLooks of mode === 'exact' ? [true] : [true, false]) {
          const after = await runScript(code, takesLooks);
          expect(after.result).toBe(before.result);
          expect(after.tooMany).toBe(0);
          if (!name.startsWith('stack overflow')) expect(after.open).toBe(0);
        }
      });
    }

    it(`is given back as it was written, all of it, ${mode}`, () => {
      for (const [name, text] of Object.entries(TRICKY_SCRIPTS)) {
        const { code } = rewrite(text, { isModule: false, mode });
        expect(scriptAsWritten(code), name).toBe(text);
      }
    });
  }

  it('is given back as it was written where it names what rewriting does', () => {
    const plain = '"use strict"; const told = "=()=>0;__np_x is no name"; [1].map((a) => a); // told';
    expect(scriptAsWritten(rewrite(plain).code)).toBe(plain);
    expect(scriptAsWritten(plain)).toBe(plain);
  });

  it('tells of each call once, and of its own code', async () => {
    const { code } = rewrite(`
      const fold = (name) => name.toUpperCase();
      function search(names) { return names.map(fold); }
      result = search(['a', 'b', 'c']);`);
    const { entered, registered } = await runScript(code);
    const { functions } = JSON.parse(registered[0]!) as ScriptRegistration;
    expect(entered.map((id) => functions[id - 1000]![0])).toEqual([
      'desk.js',
      'search',
      'fold',
      'fold',
      'fold',
    ]);
  });

  it('counts an asynchronous function as running only while it runs', async () => {
    const { code } = rewrite(`
      const depths = []; let open = 0;
      const other = async () => { depths.push('other'); await null; depths.push('other again'); };
      async function wait() { await other(); depths.push('after'); }
      result = Promise.all([wait(), other()]);`);
    const { entered, open } = await runScript(code);
    expect(entered.length).toBe(1 + 2 + 2 * 2);
    expect(open).toBe(0);
  });

  it('leaves small functions alone, which are charged to their caller', () => {
    const { code, idCount } = rewrite(
      'const twice = (x) => x * 2; function area(l) { return l.length * l.beam; }',
    );
    expect(idCount).toBe(1);
    expect(code).toContain('const twice = (x) => x * 2; function area(l) { return l.length * l.beam; }');
  });

  it.each([
    ['return this.seat || (this.seat = new Seat(this));', false],
    ['return (this.#deck.seat ??= seatOf(this.#deck));', false],
    ['return seat ?? (seat = seatOf(this)), seat;', false],
    ['return this.seat || (this.berth = new Seat(this));', true],
    ['return this.seats[0] || (this.seats[0] = new Seat(this));', true],
    ['return this.seat && (this.seat = new Seat(this));', true],
    ['return this.seatOf(1) || (this.seat = new Seat(this));', true],
    ['this.seat ??= 0; return seatOf(this);', true],
  ])('of what gives a value that it keeps (%s), records: %s', (body, isRecorded) => {
    const text = `class Passenger { #deck; give(seat) { ${body} } }`;
    expect(rewrite(text).code.includes('__np_e(1001)')).toBe(isRecorded);
  });

  it('keeps every line where it was', () => {
    const text = TRICKY_SCRIPTS['async generators and for await']!;
    const lines = rewrite(text).code.split('\n');
    text.split('\n').forEach((line, index) => {
      const first = /\w+/.exec(line)?.[0];
      if (first !== undefined) expect(lines[index]).toContain(first);
    });
  });

  it('keeps its directives, hashbang and imports working', () => {
    expect(rewrite('"use strict"\nf()').code).toMatch(/^"use strict";typeof __np_r/);
    expect(rewrite('#!/usr/bin/env node\nf()').code).toMatch(/^#!.*\ntypeof __np_r/);
    expect(rewrite('import { f } from "./f.js"; export const g = () => f();').code).toContain('import { f }');
  });

  it('does not mark the end of a module that waits at its top level', () => {
    expect(rewrite('await f();', { isModule: true }).code).not.toContain('__np_x();');
    expect(rewrite('f() // the end').code).toMatch(/f\(\);__np_x\(\); \/\/ the end$/);
    expect(rewrite('export const f = async () => { await g(); };', { isModule: true }).code).toMatch(
      /;__np_x\(\);$/,
    );
  });

  /** The parser calls itself, and goes deeper only in a thread with more stack (see the pool of the server). */
  const orAsItWas = (text: string) => {
    try {
      return rewrite(text, { isModule: false }).code;
    } catch (error) {
      if (!(error instanceof UnrewritableError)) throw error;
      return text;
    }
  };
  const many = (count: number, piece: string, separator = '') => Array(count).fill(piece).join(separator);
  const DEEP: Readonly<Record<string, string>> = {
    'a sum of 1,500 terms': `function f(a) { return ${many(1500, 'a', '+')}; } result = f(2);`,
    '1,500 brackets': `function f(a) { return ${many(1500, '(')}[a].join()${many(1500, ')')}; } result = f(2);`,
    '1,500 chained calls': `const o = { m() { return [this].at(0); }, v: 3 }; result = o${many(1500, '.m()')}.v;`,
    '1,000 nested arrows': `const f = ${many(1000, '() => ')}[1].join(); let g = f; while (typeof g === 'function') g = g(); result = g;`,
    '1,500 conditions in tail position': `'use strict'; function f(n) { return ${many(1500, 'n === 0 ? 1 : ')}[n].join(); } result = f(4);`,
    '1,000 nested blocks': `function f() { ${many(1000, '{')} var x = [5].join(); ${many(1000, '}')} return x; } result = f();`,
  };
  for (const [name, text] of Object.entries(DEEP)) {
    it(`does the same however deep it is nested: ${name}`, async () => {
      const before = await runScript(text);
      expect((await runScript(orAsItWas(text))).result).toBe(before.result);
    });
  }

  it('is refused, and nothing more, where it is nested deeper than the parser goes', () => {
    expect(() => rewrite(`result = ${many(200_000, '(')}1${many(200_000, ')')}`)).toThrow(UnrewritableError);
  });

  it('may give the names of the global object another meaning', async () => {
    const script = 'const globalThis = { result: 1 }; const f = (x) => [x].join(); result = f(2);';
    expect(rewrite(script).code).toMatch(/self\.__np_e\?\?=/);
    const all = 'const globalThis = 1, self = 2, window = 3; [1].join();';
    expect(() => rewrite(all)).toThrow('names of its own');
    expect(() => rewrite('import globalThis from "./a.js"; [1].map(String);')).not.toThrow();
  });

  it('is refused where it would be none once rewritten, whatever the reason', () => {
    expect(() =>
      rewrite('class A { constructor() { [1].map(String); } }', { prelude: 'no script {' }),
    ).toThrow('once rewritten, it is no script');
  });

  it('is refused where it is no JavaScript, with the place', () => {
    expect(() => rewrite('let let = {')).toThrow(UnrewritableError);
    expect(() => rewrite('let let = {')).toThrow('1:4');
  });

  it('leaves code alone that is compiled by rules of its own', () => {
    const text = 'function M(stdlib) { "use asm"; function f() { while (1) {} } return f; }';
    expect(rewrite(text).code).toContain(text);
  });
});

describe('a script that evaluates others', () => {
  const within =
    'function fold(names) { return names.map((name) => name.trim()); }\nresult = fold([" a"]).join();';
  const address = 'deck-internal:///./src/fold.js';
  const evaluating = (text: string) => `const trusted = (t) => t; ${text}`;

  it('has them rewritten by their own addresses, as scripts of their own', async () => {
    const literal = JSON.stringify(`${within}\n//# sourceURL=${address}\n`);
    for (const call of [`eval(${literal});`, `eval(trusted(${literal}));`]) {
      const text = evaluating(`function run() { ${call} } run();`);
      const { code, idCount } = rewrite(text, { isModule: false });
      const ran = await runScript(code);
      expect([ran.result, ran.tooMany, ran.open]).toEqual(['"a"', 0, 0]);
      const registered = ran.registered.map((told) => JSON.parse(told) as ScriptRegistration);
      expect(registered.map(({ url }) => url)).toEqual(['/desk.js', address]);
      expect(registered[1]!.functions.map(([name]) => name)).toEqual([
        'fold.js',
        'fold',
        'anonymous in fold',
      ]);
      expect(new Set(ran.entered).size).toBe(ran.entered.length);
      expect(Math.max(...ran.entered)).toBeLessThan(1000 + idCount);
    }
  });

  it('ends no element that it stands in, whatever is evaluated', () => {
    const literal = JSON.stringify(`result = "</script>"; [1].map((a) => a);\n//# sourceURL=${address}`);
    const { code } = rewrite(`eval(${literal.replace('</', '<\\/')});`, { isModule: false });
    expect(code).toContain('__np_e(1001)');
    expect(code).not.toContain('</script');
  });

  it('keeps to what is evaluated where it is asked for, has no address, or is no script', async () => {
    for (const text of [
      'result = String(eval("1 + 1"));',
      `result = eval(${JSON.stringify(`1 + 1\n//# sourceURL=${address}`)});`,
      'eval("var g = 4"); result = g;',
      `try { eval(${JSON.stringify(`let let\n//# sourceURL=${address}`)}); } catch (error) { result = error.name; }`,
    ]) {
      const before = await runScript(text);
      const after = await runScript(rewrite(text, { isModule: false }).code);
      expect(after.result, text).toBe(before.result);
    }
  });

  it('gives what it holds its map, where that is asked for', () => {
    const built = transformSync(
      'const n: number = 1;\nexport function stow(a: number[]) { return a.map(String); }',
      {
        loader: 'ts',
        sourcemap: 'external',
        sourcefile: 'stow.ts',
        format: 'cjs',
      },
    );
    const inline = `//# sourceMappingURL=data:application/json;base64,${btoa(built.map)}`;
    const text = `eval(${JSON.stringify(`${built.code}\n${inline}\n//# sourceURL=${address}`)});`;
    const { code } = rewrite(text, { isModule: false, mapsWithin: true });
    const literal = /eval\(("(?:[^"\\]|\\.)*")\)/.exec(code)![1]!;
    const encoded = /base64,(\S+)/.exec(JSON.parse(literal) as string)![1]!;
    expect((JSON.parse(atob(encoded)) as { sourcesContent: string[] }).sourcesContent[0]).toContain(
      'const n: number',
    );
    expect(rewrite(text, { isModule: false }).code).not.toContain('base64');
    expect(code).toContain('stow.ts');
  });
});

describe('names and places', () => {
  const source = `function computeTrim(vehicles: number[]): number[] {
  return vehicles.map((weight) => {
    return [weight].reduce((a, b) => a + b, 0);
  });
}
globalThis.result = computeTrim([1]);`;
  const built = transformSync(source, {
    loader: 'ts',
    minify: true,
    sourcemap: 'external',
    sourcefile: '../src/deck/trim.ts',
  });

  it('come through the map the script already has', async () => {
    const { code } = rewrite(built.code, { map: built.map });
    const { registered } = await runScript(code);
    const { files, functions } = JSON.parse(registered[0]!) as ScriptRegistration;
    expect(functions.slice(1).map(([name, file, line]) => [name, files[file], line])).toEqual([
      ['computeTrim', 'src/deck/trim.ts', 1],
      ['anonymous in computeTrim', 'src/deck/trim.ts', 2],
    ]);
  });

  it('are still right in the map of the rewritten text', () => {
    const { code, map } = rewrite(`${built.code}//# sourceMappingURL=desk.js.map\n`, { map: built.map });
    expect(code).not.toContain('sourceMappingURL');
    const traced = new TraceMap(map());
    const offset = code.indexOf('.reduce');
    const line = code.slice(0, offset).split('\n').length;
    const column = offset - code.lastIndexOf('\n', offset) - 1;
    expect(originalPositionFor(traced, { line, column })).toMatchObject({
      line: 3,
      source: expect.stringContaining('trim.ts'),
    });
  });

  it('come through a map of sections, and are the script’s own where its map is damaged', () => {
    const sections = [{ offset: { line: 1, column: 0 }, map: JSON.parse(built.map) as object }];
    const placed = (ownMap: string) => {
      const url = 'http://localhost:4781/desk.js';
      const text = `\n${built.code}`;
      const { code, map } = rewrite(text, { url, map: ownMap, mapUrl: `${url}.map` });
      const traced = new TraceMap(map(), url);
      const offset = code.indexOf('.reduce');
      const line = code.slice(0, offset).split('\n').length;
      const column = offset - code.lastIndexOf('\n', offset) - 1;
      const { source: from, line: at } = originalPositionFor(traced, { line, column });
      return [from, at];
    };
    expect(placed(JSON.stringify({ version: 3, sections }))).toEqual([
      'http://localhost:4781/src/deck/trim.ts',
      3,
    ]);
    expect(placed('{')).toEqual(['http://localhost:4781/desk.js', 2]);
  });

  it('come through a map that names the script itself as its source, as dev servers that transform each file write', () => {
    const url = 'http://localhost:5173/src/trim.ts';
    const transformed = transformSync(source, { loader: 'ts', sourcemap: 'external', sourcefile: 'trim.ts' });
    const { code, map } = rewrite(`\n${transformed.code}`, {
      url,
      map: transformed.map.replace('"mappings": "', '"mappings": ";'),
      mapUrl: url,
    });
    const traced = new TraceMap(map(), url);
    const offset = code.indexOf('.reduce');
    const line = code.slice(0, offset).split('\n').length;
    const column = offset - code.lastIndexOf('\n', offset) - 1;
    expect(originalPositionFor(traced, { line, column })).toMatchObject({ line: 3, source: url });
    expect(JSON.parse(map()).sourcesContent).toEqual([source]);
  });
});
