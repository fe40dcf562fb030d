import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runInNewContext } from 'node:vm';
import { ENTER, FIRST_EXACT_FUNCTION, LEAVE, LEAVE_EXPRESSION, REGISTER } from '@nettle-patch/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { RewritingPool } from './rewriting-pool';
import { ScriptCache } from './script-cache';
import { ScriptRewriter } from './script-rewriter';

const URL_OF_DESK = 'http://localhost:4781/desk.js';
const many = (count: number, piece: string) => Array(count).fill(piece).join('');

let folder: string;
let rewriter: ScriptRewriter;
const begin = () => new ScriptRewriter(new ScriptCache(folder));

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'nettle-patch-cache-'));
  rewriter = begin();
});
afterEach(async () => {
  rewriter.close();
  // What is kept of a script is written after it was given out.
  await rm(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 50 });
});

const rewrite = (text: string, more: object = {}) =>
  rewriter.rewrite({ url: URL_OF_DESK, text, mode: 'exact', ...more });

/** What a script leaves in `result`, and the ids of the functions it entered. */
function run(code: string): { result: unknown; entered: number[] } {
  const entered: number[] = [];
  const scope = {
    result: undefined,
    [ENTER]: (id: number) => entered.push(id),
    [LEAVE]: () => 0,
    [LEAVE_EXPRESSION]: () => 0,
    [REGISTER]: () => undefined,
  };
  runInNewContext(code, scope);
  return { result: scope.result, entered };
}

describe('scripts that are nested deep', () => {
  it.each([
    [
      '1,500 brackets',
      `const f = (a) => ${many(1500, '(')}[a].join()${many(1500, ')')}; result = f(2);`,
      '2',
    ],
    [
      '1,500 chained calls',
      `const o = { m() { return [this].at(0); } }; result = o${many(1500, '.m()')} === o;`,
      true,
    ],
    [
      '1,000 arrows',
      `const f = ${many(1000, '() => ')}[1].join(); let g = f; while (typeof g !== 'string') g = g(); result = g;`,
      '1',
    ],
    ['1,500 conditions', `const f = (n) => ${many(1500, 'n === 0 ? 1 : ')}[n].join(); result = f(4);`, '4'],
    ['a sum of 1,500 terms', `const f = (a) => [a].length${many(1500, '+a')}; result = f(1);`, 1501],
  ])('are rewritten and do the same: %s', async (_name, text, result) => {
    const code = await rewrite(text);
    expect(rewriter.uninstrumented).toEqual([]);
    expect(run(code)).toMatchObject({ result });
    expect(run(code).entered.length).toBeGreaterThan(1);
  });

  it('beyond all measure pass as they are, and are named', async () => {
    const text = `result = ${many(300_000, '(')}1${many(300_000, ')')}`;
    expect(await rewrite(text)).toBe(text);
    expect(rewriter.uninstrumented).toMatchObject([
      { url: URL_OF_DESK, problem: expect.stringContaining('too deep') },
    ]);
  });
});

describe('a script that cannot be rewritten', () => {
  it('passes as it is and is named, whatever is wrong with it', async () => {
    for (const text of ['let let = {', 'const globalThis = 1, self = 2, window = 3; [1].join();', '\u0000']) {
      expect(await rewrite(text)).toBe(text);
      expect(rewriter.uninstrumented.at(-1)).toMatchObject({ url: URL_OF_DESK });
    }
    expect(await rewriter.precede(URL_OF_DESK, 'let let = {', 'prelude()')).toBe('let let = {');
  });

  it('is none for a map that is damaged: it is rewritten without', async () => {
    for (const map of ['{', 'null', '{"version":3,"mappings":"!!"}', '{"version":3,"sections":[{}]}']) {
      const code = await rewrite('const f = (n) => [n].join(); result = f(1);', {
        map,
        mapUrl: `${URL_OF_DESK}.map`,
      });
      expect(run(code).result).toBe('1');
      expect((await rewriter.textAt(URL_OF_DESK))!.text).toBe(code);
    }
  });
});

it('tells why a text that ran cannot be had, where its thread ends', async () => {
  await rewrite('const f = (n) => [n].join(); result = f(1);');
  vi.spyOn(RewritingPool.prototype, 'run').mockRejectedValueOnce(new Error('its thread ended'));
  expect(await rewriter.textAt(URL_OF_DESK)).toEqual({
    url: URL_OF_DESK,
    problem: 'the text that ran could not be made again: its thread ended',
  });
});

describe('a large script', () => {
  const large = `const f = (n) => [n].join();\n${many(12_000, 'globalThis.x = { fold(names) { return names.map((name) => name.trim()); } };\n')}result = f(1);`;

  it('is rewritten while other things go on', async () => {
    let turns = 0;
    const timer = setInterval(() => turns++, 5);
    let isDone = false;
    const done = rewrite(large).then((code) => {
      isDone = true;
      return code;
    });
    const stages = new Set<string>();
    const looking = setInterval(() => {
      for (const { name, stage } of rewriter.inWork) if (name === 'desk.js') stages.add(stage);
    });
    const small = await rewriter.rewrite({
      url: 'http://localhost:4781/small.js',
      mode: 'exact',
      text: 'const f = (n) => [n].join();',
    });
    expect(isDone).toBe(false);
    expect(small).toContain(ENTER);
    expect(run(await done).result).toBe('1');
    clearInterval(timer);
    clearInterval(looking);
    expect([...stages]).toEqual(['reading', 'rewriting', 'checking']);
    expect(rewriter.inWork).toEqual([]);
    expect(turns).toBeGreaterThan(10);
  });

  it('is taken from the disk in the next run, with ids of its own', async () => {
    const first = await rewrite(large);
    while ((await readdir(folder)).filter((name) => !name.includes('.')).length === 0)
      await new Promise((resolve) => setTimeout(resolve, 5));
    rewriter.close();
    rewriter = begin();
    expect(await rewrite(large)).toBe(first);
    rewriter.close();
    rewriter = begin();
    await rewriter.rewrite({
      url: 'http://localhost:4781/small.js',
      mode: 'exact',
      text: 'const f = (n) => [n].join();',
    });
    const second = await rewrite(large);
    expect(run(second).entered).toEqual(run(first).entered.map((id) => id + 2));
    expect(run(first).entered[0]).toBe(FIRST_EXACT_FUNCTION);
    expect((await rewriter.textAt(URL_OF_DESK))!.text).toBe(second);
  });
});
