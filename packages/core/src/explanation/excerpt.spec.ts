import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { excerptOf } from './excerpt';

const URL = 'http://localhost:4781/desk.js';
/** A file in which `trimOfPair` begins at line 3 and each line says its number. */
const text = Array.from({ length: 40 }, (_, at) => `    line ${at + 1}`).join('\n');
const rows = (content: string | undefined): Row[] => [
  { kind: 'source', id: 0, url: URL },
  ...(content === undefined ? [] : [{ kind: 'text', file: URL, text: content } satisfies Row]),
  { kind: 'function', id: 0, name: 'trimOfPair', source: 0, line: 3, column: 1 },
];
const excerpt = (hotLines: { line: number; chargedMs: number }[], content: string | undefined = text) =>
  excerptOf(recordingOf(rows(content)), { functionId: 0, hotLines });

describe('an excerpt of the source', () => {
  it('begins with the function while the dearest lines are near', () => {
    const { lines, file, knowsLines } = excerpt([{ line: 6, chargedMs: 40 }])!;
    expect([file, knowsLines, lines[0]!.line]).toEqual([URL, true, 3]);
    expect(lines.find(({ line }) => line === 6)).toEqual({ line: 6, text: 'line 6', chargedMs: 40 });
    expect(lines.filter(({ chargedMs }) => chargedMs > 0)).toHaveLength(1);
  });

  it('goes where most of the time is, with what comes before it', () => {
    const far = excerpt([
      { line: 4, chargedMs: 10 },
      { line: 30, chargedMs: 25 },
      { line: 31, chargedMs: 25 },
    ])!;
    expect(far.lines.map(({ line }) => line)).toEqual([28, 29, 30, 31, 32, 33, 34, 35, 36]);
  });

  it('ends with the file, and says when lines are not known', () => {
    expect(excerpt([{ line: 40, chargedMs: 5 }])!.lines.at(-1)!.line).toBe(40);
    expect(excerpt([])).toMatchObject({ knowsLines: false });
    expect(excerpt([])!.lines[0]!.line).toBe(3);
  });

  it('cuts what is one line as long as a whole script', () => {
    const { lines } = excerpt([{ line: 3, chargedMs: 1 }], `\n\n${'x'.repeat(100_000)}`)!;
    expect(lines[0]!.text.length).toBeLessThan(200);
  });

  it('is not there without the text, nor where the text ends before the function', () => {
    expect(excerpt([{ line: 3, chargedMs: 5 }], 'one line')).toBeUndefined();
    expect(excerptOf(recordingOf(rows(undefined)), { functionId: 0, hotLines: [] })).toBeUndefined();
  });
});
