/** What rewriting makes of scripts, and how long it takes, for each mode. */
import { readFileSync } from 'node:fs';
import { brotliCompressSync } from 'node:zlib';
import { parse as acornParse } from 'acorn';
import { parseScript, rewriteScript } from '../../packages/server/dist/index.js';
import { medianOf, ratioOf } from './statistics.mjs';

const MODES = ['exact', 'fine'];
const BUNDLES = [
  'vue/dist/vue.global.prod.js',
  'quill/dist/quill.js',
  'chart.js/dist/chart.umd.js',
  'handlebars/dist/handlebars.js',
];
const ROUNDS = 7;
/** What leads to a map, or holds one, is no code. */
const MAP_COMMENT = /^\/\/# sourceMappingURL=.*$/gm;
const rewritten = (text, mode) => rewriteScript(text, { url: '/bundle.js', firstId: 0, mode }).code;

/** Rewriting large bundles, as a ratio to parsing them alone in the same run. */
export function rewritingSpeed() {
  const texts = BUNDLES.map((path) =>
    readFileSync(new URL(`../../node_modules/${path}`, import.meta.url), 'utf8'),
  );
  const megabytes = texts.reduce((sum, text) => sum + text.length, 0) / 1e6;
  const timeOf = (work) => {
    const startMs = performance.now();
    for (const text of texts) work(text);
    return performance.now() - startMs;
  };
  const inTurn = (one, other) => {
    timeOf(one);
    timeOf(other);
    return Array.from({ length: ROUNDS }, () => [timeOf(one), timeOf(other)]);
  };
  const speeds = MODES.map((mode) => {
    const pairs = inTurn((text) => rewritten(text, mode), parseScript);
    const seconds = medianOf(pairs.map(([ms]) => ms)) / 1000;
    return { mode, megabytesASecond: megabytes / seconds, ...ratioOf(pairs) };
  });
  const parsers = ratioOf(inTurn(parseScript, (text) => acornParse(text, { ecmaVersion: 'latest' })));
  return { speeds, parserToOther: parsers.ratio };
}

/**
 * How much longer each script of a page becomes, as text and as it is sent (brotli).
 * @param origin of its server
 */
export async function sizesOf(origin, path) {
  const html = await (await fetch(new URL(path, origin))).text();
  const sources = [...html.matchAll(/<script[^>]*\ssrc="([^"]+)"/g)].map(([, source]) => source);
  const bytes = (text) => ({ text: Buffer.byteLength(text), sent: brotliCompressSync(text).length });
  return Promise.all(
    sources.map(async (source) => {
      const answer = await fetch(new URL(source, new URL(path, origin)));
      const text = (await answer.text()).replace(MAP_COMMENT, '');
      const before = bytes(text);
      const ratios = MODES.map((mode) => {
        const after = bytes(rewritten(text, mode));
        return { mode, text: after.text / before.text, sent: after.sent / before.sent };
      });
      return { source, bytes: before.text, ratios };
    }),
  );
}
