import { scriptAsWritten } from '@nettle-patch/core';
import { transformSync } from 'esbuild';
import { format } from 'prettier';
import { describe, expect, it } from 'vitest';
import { rewriteScript } from './rewrite-script';
import { runScript } from './testing/run';
import { TRICKY_SCRIPTS } from './testing/tricky-scripts';

/** A script as builds for production leave it. */
const dense = (text: string) =>
  transformSync(text, { minifyWhitespace: true, minifySyntax: true, logLevel: 'silent' }).code;

/** A script as those write it who leave semicolons to the engine, with few statements to a line. */
const withoutSemicolons = (text: string) => format(text, { parser: 'acorn', semi: false, printWidth: 40 });

/** The same scripts written in another way, without those that the tool for it refuses. */
async function writtenBy(
  write: (text: string) => string | Promise<string>,
): Promise<(readonly [name: string, text: string])[]> {
  const scripts: (readonly [string, string])[] = [];
  for (const [name, text] of Object.entries(TRICKY_SCRIPTS)) {
    try {
      scripts.push([name, await write(text)]);
    } catch {
      // Some of the scripts are only read by engines.
    }
  }
  return scripts;
}

describe.each([
  ['in which a build has left no spaces', await writtenBy(dense)],
  ['without semicolons', await writtenBy(withoutSemicolons)],
])('a rewritten script %s', (_, scripts) => {
  it('is there for nearly all', () => {
    expect(scripts.length).toBeGreaterThanOrEqual(Object.keys(TRICKY_SCRIPTS).length - 2);
  });

  describe.each(['exact', 'fine', 'closer'] as const)('%s', (mode) => {
    it.each(scripts)('does the same, and is given back: %s', async (_name, text) => {
      const { code } = rewriteScript(text, { url: '/desk.js', firstId: 1000, isModule: false, mode });
      const { result } = await runScript(text);
      expect((await runScript(code)).result).toBe(result);
      if (mode !== 'exact') expect((await runScript(code, false)).result).toBe(result);
      expect(scriptAsWritten(code)).toBe(text);
    });
  });
});
