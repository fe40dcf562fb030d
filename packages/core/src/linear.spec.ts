import { expect, it } from 'vitest';
import { foldedStacksFormat } from './imports/folded-stacks';
import { performanceEntriesFormat } from './imports/performance-entries';
import { ScriptResolver } from './sources/resolve-script';

const LENGTH = 80_000;
/** What takes time in step with the length takes a few milliseconds; what takes its square, seconds. */
const LIMIT_MS = 1000;
const of = (piece: string) => piece.repeat(LENGTH / piece.length);

function msOf(work: () => unknown): number {
  const startedMs = performance.now();
  try {
    work();
  } catch {
    // Being refused is an answer too.
  }
  return performance.now() - startedMs;
}

const MAP = {
  version: 3,
  sources: ['desk.ts'],
  sourcesContent: [`function${of(' ')}!`],
  names: [],
  mappings: 'AAAA',
};

it.each<[string, () => unknown]>([
  ['brackets in the names of folded stacks', () => foldedStacksFormat.read(`${of(' (')} 1`)],
  ['places in the names of folded stacks', () => foldedStacksFormat.read(`${of(' (:1')} 1`)],
  [
    'addresses in what entered a script',
    () =>
      performanceEntriesFormat.read([
        {
          entryType: 'long-animation-frame',
          name: '',
          startTime: 0,
          duration: 100,
          scripts: [{ entryType: 'script', startTime: 0, duration: 90, invoker: of('http:') }],
        },
      ] as never),
  ],
  [
    'spaces in what a map says is a function',
    () =>
      new ScriptResolver({
        url: 'http://localhost:4781/desk.js',
        text: '(function () {})()',
        map: JSON.stringify(MAP),
      }).functionAt(1),
  ],
])('80,000 characters are read in step with their length: %s', (_name, work) => {
  expect(msOf(work)).toBeLessThan(LIMIT_MS);
});
