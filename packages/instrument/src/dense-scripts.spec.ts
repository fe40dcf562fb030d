import { scriptAsWritten } from '@nettle-patch/core';
import { transformSync } from 'esbuild';
import { describe, expect, it } from 'vitest';
import { rewriteScript } from './rewrite-script';
import { runScript } from './testing/run';
import { TRICKY_SCRIPTS } from './testing/tricky-scripts';

/** A script as builds for production leave it; undefined where the builder refuses it. */
function dense(text: string): string | undefined {
  try {
    return transformSync(text, { minifyWhitespace: true, minifySyntax: true, logLevel: 'silent' }).code;
  } catch {
    return undefined;
  }
}

describe('a rewritten script in which a build has left no spaces', () => {
  const scripts = Object.entries(TRICKY_SCRIPTS)
    .map(([name, text]) => [name, dense(text)] as const)
    .filter((script): script is [string, string] => script[1] !== undefined);

  it('is there for nearly all', () => {
    expect(scripts.length).toBeGreaterThanOrEqual(Object.keys(TRICKY_SCRIPTS).length - 2);
  });

  describe.each(['exact', 'fine', 'closer'] as const)('%s', (mode) => {
    it.each(scripts)('does the same, and is given back: %s', async (_, text) => {
      const { code } = rewriteScript(text, { url: '/desk.js', firstId: 1000, isModule: false, mode });
      expect((await runScript(code)).result).toBe((await runScript(text)).result);
      expect(scriptAsWritten(code)).toBe(text);
    });
  });
});
